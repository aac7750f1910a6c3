import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { waitingDue } from '../../src/core/watch/rhythm.js';
import { DAY, HOUR, MINUTE } from '../../src/core/time/duration.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

describe('when a token that waits is looked at', () => {
  const at = (ms: number) => new Date(Date.parse('2026-11-25T08:00:00Z') + ms);
  const after = (last: number | null, visible: number | null = null) =>
    waitingDue(at(0), last === null ? null : at(last), visible === null ? null : at(visible)).getTime() -
    at(0).getTime();

  it('is soon at first, then more seldom, daily, and after a month weekly', () => {
    expect(after(null)).toBe(15 * MINUTE);
    expect(after(-DAY)).toBe(15 * MINUTE);
    expect(after(20 * MINUTE)).toBe(35 * MINUTE);
    expect(after(4 * HOUR)).toBe(5 * HOUR);
    expect(after(10 * DAY)).toBe(11 * DAY);
    expect(after(31 * DAY)).toBe(38 * DAY);
  });

  it('is when a record can be seen that others only remember otherwise', () => {
    expect(after(10 * DAY, 10 * DAY + HOUR)).toBe(10 * DAY + HOUR + MINUTE);
    expect(after(10 * DAY, 13 * DAY)).toBe(11 * DAY);
  });
});

describe('tokens that wait to be placed', () => {
  let stage: Stage;
  const pass = (ms: number) => stage.world.advance(ms);
  const badges = async () =>
    Object.fromEntries(
      (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items.map(
        ({ name, badge }) => [name, badge] as const,
      ),
    );
  const subjects = () => Promise.resolve(stage.world.post.mails.map(({ subject }) => subject));

  beforeAll(async () => {
    stage = await openStage({ 'watch.on': 'true' });
    await stage.marit.editRecipient({
      params: { person: 'me' },
      body: { email: 'marit@harbour-lights.example' },
    });
  });
  afterAll(() => stage.close());

  it('are seen by themselves when they stand, and that is told', async () => {
    const enrolments = await takeOnFerries(stage);
    expect((await stage.marit.showWatch({ query: {} })).items.map(({ subject }) => subject)).toContain(
      'ferries@veldrane:name dns',
    );
    await placeAll(
      stage,
      enrolments.filter(({ name }) => name === 'ferries@veldrane:name'),
    );
    // Nobody says a word, and nobody asks.
    await pass(20 * MINUTE);
    await until(badges, (now) => now['ferries@veldrane:name'] === 'in-place');
    await pass(5 * MINUTE);
    await until(subjects, (all) => all.some((subject) => subject === 'ferries: the token stands'));
    // What the watch found may be shown a little later.
    await until(
      () => stage.marit.worklist({ query: { property: 'ferries' } }),
      ({ items }) =>
        items.some(
          ({ step, enrolments: some }) =>
            step.kind === 'claim' && some.some(({ name }) => name === 'ferries@veldrane:name'),
        ),
    );
    // It is told once, and not claimed unasked.
    await pass(2 * DAY);
    await until(
      () => stage.marit.showWatch({ query: {} }),
      ({ counts }) => counts['due'] === 0 && counts['underWay'] === 0,
    );
    expect((await subjects()).filter((subject) => subject === 'ferries: the token stands')).toHaveLength(1);
    expect((await badges())['ferries@veldrane:name']).toBe('in-place');
  });

  it('are claimed by themselves where the client wants it: from enrolment to held without a hand', async () => {
    const client = await stage.marit.editClient({
      params: { client: 'saltmarsh' },
      body: { claims: 'by-themselves' },
    });
    expect(client.claims).toBe('by-themselves');
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    await placeAll(
      stage,
      items.filter(({ name }) => name === 'ferries@veldrane:address'),
    );
    await pass(1.5 * DAY);
    await until(
      badges,
      (now) => now['ferries@veldrane:address'] === 'held' && now['ferries@veldrane:name'] === 'held',
    );
    await pass(5 * MINUTE);
    await until(subjects, (all) => all.some((subject) => subject.startsWith('ferries: held')));
    const { items: journal } = await stage.marit.journal({ query: { property: 'ferries', who: 'service' } });
    expect(journal.filter(({ kind }) => kind === 'claim.sent')).toHaveLength(2);
  });
});
