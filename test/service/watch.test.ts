import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DAY, HOUR, MINUTE } from '../../src/core/time/duration.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

let stage: Stage;
const watch = (query: object = {}) => stage.marit.showWatch({ query });
const badges = async () =>
  Object.fromEntries(
    (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items.map(
      ({ name, badge }) => [name, badge] as const,
    ),
  );
const stepOf = async (name: string) =>
  (await stage.marit.worklist({ query: { property: 'ferries' } })).items.find(({ enrolments }) =>
    enrolments.some((one) => one.name === name),
  )?.step;
const pass = (ms: number) => stage.world.advance(ms);
/** Waits until nothing is due that would be looked at. */
const looked = () => until(watch, ({ counts }) => counts['due'] === 0 && counts['underWay'] === 0);

beforeAll(async () => {
  stage = await openStage({ 'watch.on': 'true' });
  const enrolments = await takeOnFerries(stage);
  await placeAll(stage, enrolments);
  const held = { enrolments: ['ferries@house', 'ferries@veldrane:address'], method: 'meta' as const };
  await stage.results(stage.marit.claim({ body: held }));
  await stage.results(stage.marit.claim({ body: { enrolments: ['ferries@veldrane:name'] } }));
});
afterAll(() => stage.close());

describe('the watch', () => {
  it('looks after what is held, and after what can change', async () => {
    const { items, counts, on, nextAt } = await watch();
    expect(on).toBe(true);
    expect(counts).toMatchObject({ placement: 3, variants: 1 });
    expect(items.map(({ subject }) => subject)).toContain('ferries@veldrane:name dns');
    expect(Date.parse(nextAt ?? '') - Date.parse((await stage.marit.whoAmI()).now)).toBeLessThan(1.5 * DAY);
    expect(items.every(({ every }) => every === 86_400)).toBe(true);
  });

  it('looks by itself when the time has come, each thing once', async () => {
    const before = await watch();
    await pass(1.6 * DAY);
    const after = await looked();
    expect(after.pastDay).toMatchObject({ looks: before.items.length, failed: 0 });
    expect(after.items.every(({ dueAt, lookedAt }) => dueAt > after.asOf && lookedAt !== null)).toBe(true);
    expect((await stage.marit.listJobs()).items.some(({ kind }) => kind === 'watch')).toBe(false);
  });

  it('sees a token that is gone, and that it is back', async () => {
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'txt' });
    await pass(1.6 * DAY);
    await until(badges, (now) => now['ferries@veldrane:name'] === 'slipping');
    const { items } = await stage.marit.journal({ query: { property: 'ferries', who: 'service' } });
    expect(items[0]?.says).toContain('not in place');
    // What else stands there is looked at with the next round.
    await pass(MINUTE);
    await looked();
    const again = (await watch()).items.filter(({ why }) => why === 'again');
    expect(again.map(({ subject }) => subject)).toEqual(['ferries@veldrane:name dns']);
    const name = (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items.filter(
      ({ reach }) => reach === 'name',
    );
    await placeAll(stage, name);
    await pass(10 * MINUTE);
    await until(badges, (now) => now['ferries@veldrane:name'] === 'held');
  });

  it('tells a website that is down from a token that is gone', async () => {
    await stage.order({ do: 'site', host: 'www.saltmarsh-ferries.example', serves: 'down' });
    await pass(1.6 * DAY);
    const held = await until(
      () => stepOf('ferries@veldrane:address'),
      (step) => step?.says.includes('looked at again soon') === true,
    );
    expect(held).toMatchObject({ kind: 'wait', acts: 'time' });
    expect(await badges()).toMatchObject({ 'ferries@veldrane:address': 'held' });
    await pass(3 * HOUR);
    const lasting = await until(
      () => stepOf('ferries@veldrane:address'),
      (step) => step?.kind === 'mend-site',
    );
    expect(lasting).toMatchObject({ acts: 'client' });
    expect(lasting?.says).toContain('cannot be reached');
    expect(await badges()).toMatchObject({ 'ferries@veldrane:address': 'held' });
    await stage.order({ do: 'site', host: 'www.saltmarsh-ferries.example', serves: 'pages' });
    await pass(7 * HOUR);
    await until(
      () => stepOf('ferries@veldrane:address'),
      (step) => step?.kind !== 'mend-site',
    );
  });

  it('leaves alone what is paused, and says why and by whom', async () => {
    await looked();
    const pause = await stage.marit.pauseWatch({
      body: { property: 'ferries', why: 'the site is being rebuilt' },
    });
    expect(pause).toMatchObject({ property: 'ferries', client: null, who: 'marit', until: null });
    await pass(2 * DAY);
    await new Promise((done) => setTimeout(done, 2_500));
    const paused = await watch();
    const late = paused.items.filter(({ dueAt }) => dueAt <= paused.asOf);
    expect(late.length).toBeGreaterThan(3);
    expect(late.every((one) => one.paused === 'the site is being rebuilt')).toBe(true);
    // What is paused is due to nobody.
    expect(paused.counts['due']).toBe(0);
    expect((await watch({ due: true })).items).toEqual([]);
    expect(paused.pauses).toEqual([pause]);
    await stage.marit.resumeWatch({ body: { property: 'ferries' } });
    await pass(2 * MINUTE);
    await looked();
    await expect(stage.marit.resumeWatch({ body: { property: 'ferries' } })).rejects.toMatchObject({
      problem: { code: 'not-paused' },
    });
    await expect(
      stage.marit.pauseWatch({ body: { all: true, why: 'holidays', until: '2001-01-01T00:00:00Z' } }),
    ).rejects.toMatchObject({ problem: { code: 'not-to-come' } });
    await expect(stage.marit.pauseWatch({ body: { why: 'nothing named' } })).rejects.toMatchObject({
      problem: { code: 'bad-input' },
    });
  });

  it('keeps a rhythm of its own for a property that wants one', async () => {
    const body = { rhythms: { placement: 'PT6H' } };
    const property = await stage.marit.editProperty({ params: { property: 'ferries' }, body });
    expect(property.rhythms).toEqual({ placement: 'PT6H' });
    const { items } = await watch({ property: 'ferries' });
    expect(new Set(items.map(({ what, every }) => `${what} ${String(every / 3600)}`))).toEqual(
      new Set(['placement 6', 'variants 24']),
    );
    const usual = { rhythms: { placement: null } };
    expect(
      (await stage.marit.editProperty({ params: { property: 'ferries' }, body: usual })).rhythms,
    ).toEqual({});
    const wrong = { rhythms: { placement: 'P1M' } };
    await expect(
      stage.marit.editProperty({ params: { property: 'ferries' }, body: wrong }),
    ).rejects.toMatchObject({ problem: { code: 'bad-input' } });
  });

  it('ends with the property', async () => {
    await stage.marit.archiveProperty({ params: { property: 'ferries' }, query: { anyway: true } });
    expect(await watch()).toMatchObject({ items: [], nextAt: null });
  });
});
