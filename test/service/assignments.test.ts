import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../../src/client/client.js';
import { DAY } from '../../src/core/time/duration.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

describe('steps that are put off or handed on', () => {
  let stage: Stage;
  let marit: Client;
  let enrolments: Awaited<ReturnType<typeof takeOnFerries>>;
  beforeAll(async () => {
    stage = await openStage();
    marit = stage.marit;
    enrolments = await takeOnFerries(stage);
    await stage.person('jonas', 'consultant');
  });
  afterAll(() => stage.close());

  const steps = async (query: object = {}) => (await marit.worklist({ query })).items;
  const inDays = async (days: number) =>
    new Date(Date.parse((await marit.whoAmI()).now) + days * DAY).toISOString();

  it('leaves a step until its day, for everybody, with who said so and why', async () => {
    const until = await inDays(3);
    const [first] = await steps({ property: 'ferries' });
    const kind = first?.step.kind ?? '';
    const { steps: marked } = await marit.putOffSteps({
      body: { property: 'ferries', kind, until, why: 'their developer is away' },
    });
    expect(marked).toBeGreaterThan(0);
    const list = await marit.worklist({ query: { property: 'ferries' } });
    expect(list.items.at(-1)).toMatchObject({
      step: { kind },
      putOff: { until, why: 'their developer is away', who: 'marit' },
    });
    expect(list.counts['put-off']).toBeGreaterThan(0);
    expect(list.counts[kind]).toBeUndefined();
    expect(await steps({ kind: 'put-off' })).toHaveLength(list.counts['put-off'] ?? 0);
    const yard = await marit.yard({ query: { property: 'ferries' } });
    expect(yard.items[0]?.step?.kind).not.toBe(kind);
    await stage.world.advance(3.1 * DAY);
    expect((await steps({ property: 'ferries' })).every(({ putOff }) => putOff === null)).toBe(true);
    expect((await marit.verifyRecords()).differing).toEqual([]);
  });

  it('takes it up again when asked', async () => {
    const until = await inDays(9);
    await marit.putOffSteps({ body: { property: 'ferries', until, why: 'later' } });
    expect((await steps()).every(({ putOff }) => putOff !== null)).toBe(true);
    await marit.takeUpSteps({ body: { property: 'ferries' } });
    expect((await steps()).every(({ putOff }) => putOff === null)).toBe(true);
  });

  it('hands steps to a person, who finds them by her name, until she leaves', async () => {
    await marit.handSteps({ body: { property: 'ferries', engines: ['veldrane'], person: 'jonas' } });
    const his = await steps({ person: 'jonas' });
    expect(his.length).toBeGreaterThan(0);
    expect(his.every(({ person, engines }) => person === 'jonas' && engines[0]?.id === 'veldrane')).toBe(
      true,
    );
    expect((await steps({ person: 'nobody' })).every(({ person }) => person === null)).toBe(true);
    expect(await steps({ person: 'me' })).toEqual([]);
    const { items } = await marit.journal({ query: { kind: 'step' } });
    expect(items[0]?.says).toMatch(/handed to jonas/u);
    const jonas = (await marit.listPersons({})).items.find(({ name }) => name === 'jonas');
    await marit.endPerson({ params: { id: jonas?.id ?? '' } });
    expect((await steps()).every(({ person }) => person === null)).toBe(true);
  });

  it('ticks itself off when the fact changes, with what was said of it', async () => {
    await marit.putOffSteps({
      body: { property: 'ferries', kind: 'place', until: await inDays(30), why: 'they take their time' },
    });
    await placeAll(stage, enrolments);
    await stage.results(marit.check({ body: { all: true } }));
    expect((await steps({ property: 'ferries' })).some(({ putOff }) => putOff !== null)).toBe(false);
    expect((await marit.verifyRecords()).differing).toEqual([]);
  });

  it('says how far the taking on is: of a property, of a client, of the yard', async () => {
    const { items, progress } = await marit.yard();
    const own = items.find(({ property }) => property.handle === 'ferries')?.progress;
    expect(own?.total).toBeGreaterThan(own?.done ?? 0);
    expect(own?.next).toMatch(/^held at /u);
    expect(progress).toMatchObject({ done: own?.done, total: own?.total });
    const client = items[0]?.property.client.handle ?? '';
    expect((await marit.showClient({ params: { client } })).progress).toEqual({
      done: own?.done,
      total: own?.total,
    });
    await stage.results(marit.claim({ body: { enrolments: ['ferries@house'] } }));
    const after = (await marit.yard()).items[0]?.progress;
    expect(after?.done).toBe((own?.done ?? 0) + 1);
  });

  it('refuses what is no step, no person, and no day to come', async () => {
    const until = await inDays(2);
    await expect(
      marit.putOffSteps({ body: { property: 'ferries', kind: 'enrol-door', until, why: 'x' } }),
    ).rejects.toMatchObject({ problem: { code: 'no-such-step' } });
    await expect(
      marit.handSteps({ body: { property: 'ferries', person: 'nobody known' } }),
    ).rejects.toMatchObject({ problem: { code: 'no-such-person' } });
    await expect(
      marit.putOffSteps({ body: { property: 'ferries', until: '2020-01-01T00:00:00Z', why: 'x' } }),
    ).rejects.toMatchObject({ problem: { code: 'not-to-come' } });
    await expect(marit.putOffSteps({ body: { until, why: 'all of it' } })).rejects.toMatchObject({
      problem: { code: 'bad-input' },
    });
  });
});
