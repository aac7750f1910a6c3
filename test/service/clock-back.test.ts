import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DAY, HOUR } from '../../src/core/time/duration.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { statements } from '../support/statements.js';
import { until } from '../support/until.js';

/** A clock that is a month ahead for a while, as of a machine whose time server was wrong. */
describe('a clock that was a month ahead and is right again', () => {
  let stage: Stage;
  const AHEAD = 30 * DAY;
  const now = () => stage.world.file.now().getTime();
  const watch = () => stage.marit.showWatch({ query: { limit: 100 } });
  const looked = () => until(watch, ({ counts }) => counts['due'] === 0 && counts['underWay'] === 0);

  beforeAll(async () => {
    stage = await openStage({ 'watch.on': 'true' });
    await placeAll(stage, await takeOnFerries(stage));
    const held = { enrolments: ['ferries@house', 'ferries@veldrane:address'], method: 'meta' as const };
    await stage.results(stage.marit.claim({ body: held }));
    await stage.marit.addReport({ body: { person: 'me', every: 'week' } }).catch(() => undefined);
  });
  afterAll(() => stage.close());

  it('leaves nothing unwatched, and lets what ended stay so', async () => {
    const { url } = await stage.marit.addLink({ body: { property: 'ferries', word: 'Mika', lasts: 'P7D' } });
    const { key } = await stage.person('odile', 'onlooker');
    const asks = async () =>
      (await fetch(`${stage.url}/api/v1/session`, { headers: { authorization: `Bearer ${key}` } })).status;
    await statements(`${stage.folder}/yardbadge.sqlite`, [
      `UPDATE keys SET expiresAt = '${new Date(now() + DAY).toISOString()}'
        WHERE personId = (SELECT id FROM persons WHERE name = 'odile')`,
    ]);
    expect([(await fetch(url)).status, await asks()]).toEqual([200, 200]);
    await stage.world.advance(AHEAD);
    await looked();
    await until(
      async () => [(await fetch(url)).status, await asks()],
      ([link, session]) => link === 404 && session === 401,
    );

    stage.world.file.advance(HOUR - AHEAD);
    const soon = (time: string) => Date.parse(time) < now() + 1.6 * DAY;
    const { items } = await until(
      watch,
      (seen) =>
        seen.items.length > 0 &&
        seen.items.every(({ dueAt, lookedAt }) => soon(dueAt) && soon(lookedAt ?? dueAt)),
    );
    expect(items.every(({ lookedAt }) => lookedAt === null || Date.parse(lookedAt) <= now())).toBe(true);
    expect([(await fetch(url)).status, await asks()]).toEqual([404, 401]);
    const { items: lines } = await stage.marit.journal({ query: { kind: 'clock.back' } });
    expect(lines).toHaveLength(1);
    await stage.world.advance(1.6 * DAY);
    await looked();
    expect((await watch()).pastDay.looks).toBeGreaterThan(2);
  });
});
