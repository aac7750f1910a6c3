import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { EvidenceSeen } from '../../src/api/documents.js';
import { recordLook, saysTheSame, type Look } from '../../src/desk/history/stretches.js';
import { letGo } from '../../src/desk/history/tidying.js';
import type { Desk } from '../../src/desk/context/desk.js';
import { finding } from '../../src/core/findings/catalogue.js';
import { JobItemRow, JobRow } from '../../src/store/models/jobs.js';
import { CheckRow, EnrolmentRow, TokenRow } from '../../src/store/models/enrolments.js';
import { bind, type Values } from '../../src/store/bind.js';
import type { Store } from '../../src/store/store.js';
import type { Client } from '../../src/client/client.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { STAGE_TIME } from '../support/time.js';

const DAY = 86_400_000;
const KEEP = {
  checks: 'P104W',
  evidence: 'P26W',
  jobs: 'P13W',
  pieces: 'P2W',
  looks: 'P9000D',
  messages: 'P9000D',
  keys: 'P52W',
};

describe('history that can grow for years', () => {
  let stage: Stage;
  let marit: Client;
  const of = async (enrolment = 'ferries@house') => (await marit.listChecks({ params: { enrolment } })).items;
  const check = () => stage.results(marit.check({ body: { enrolments: ['ferries@house'], method: 'meta' } }));
  const rows = async <Row>(sql: string): Promise<Row[]> =>
    ((await EnrolmentRow.sequelize?.query(sql))?.[0] ?? []) as Row[];

  beforeAll(async () => {
    stage = await openStage();
    marit = stage.marit;
    await placeAll(stage, await takeOnFerries(stage));
  });
  afterAll(() => stage.close());

  it('looks that say the same are one stretch, with a first and a last time', async () => {
    for (let day = 0; day < 5; day += 1) {
      await check();
      await stage.world.advance(DAY);
    }
    const [only, ...more] = await of();
    expect(more).toEqual([]);
    expect([only?.times, only?.seen]).toEqual([5, true]);
    expect(Date.parse(only?.checkedAt ?? '') - Date.parse(only?.firstAt ?? '')).toBeGreaterThanOrEqual(
      4 * DAY,
    );
  });

  it('what is another thing is a stretch of its own, and so is what comes back', async () => {
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'meta' });
    await check();
    await check();
    await placeAll(stage, (await marit.listEnrolments({ query: { property: 'ferries' } })).items);
    await check();
    expect((await of()).map(({ seen, times }) => [seen, times])).toEqual([
      [true, 1],
      [false, 2],
      [true, 5],
    ]);
  });

  it('keeps what the first and the newest look of a stretch rest on, and no more', async () => {
    const kept = await rows<{ which: string; times: number }>(
      `SELECT e.which, c.times FROM evidence e JOIN checks c ON c.id = e.checkId WHERE c.method = 'meta' ORDER BY c.checkedAt, e.which`,
    );
    expect(kept.map(({ which, times }) => [which, times])).toEqual([
      ['first', 5],
      ['newest', 5],
      ['first', 2],
      ['newest', 2],
      ['first', 1],
    ]);
    const { placements } = await marit.showEnrolment({ params: { enrolment: 'ferries@house' } });
    expect(placements.find(({ method }) => method === 'meta')?.check?.seenThere).toMatchObject({
      kind: 'page',
    });
  });

  it.each([
    ['the same', {}, true],
    ['another place', { place: 'https://elsewhere.example/' }, false],
    ['another forecast', { forecast: 'unsure' as const }, false],
    ['another finding', { findings: [finding('meta.sends-on')] }, false],
    [
      'the same finding of another thing',
      { findings: [{ ...finding('meta.stands'), says: 'On line 9.' }] },
      false,
    ],
    [
      'the same finding with other evidence',
      { findings: [{ ...finding('meta.stands'), evidence: { ms: 9 } }] },
      true,
    ],
  ])('tells %s', (_, changed, same) => {
    const look = {
      place: 'https://quay.example/',
      seen: true,
      forecast: 'accept' as const,
      findings: [finding('meta.stands')],
    };
    expect(saysTheSame(look, { ...look, ...changed })).toBe(same);
  });

  it('a year of daily looks, one in a hundred of which changes a month, is a few rows', async () => {
    const [token] = await TokenRow.findAll({ where: { method: 'meta', replacedAt: null }, limit: 1 });
    if (!token) throw new Error('there are tokens');
    const evidence = { kind: 'page', end: 'answered', hops: [] } as unknown as EvidenceSeen;
    const desk = { store: storeOf() } as unknown as Desk;
    let before: CheckRow | undefined;
    for (let day = 0; day < 365; day += 1) {
      const look: Look = {
        enrolmentId: token.enrolmentId,
        tokenId: token.id,
        method: 'meta',
        place: 'https://quay.example/',
        at: new Date(STAGE_TIME.getTime() + (400 + day) * DAY).toISOString(),
        seen: day !== 200,
        forecast: day === 200 ? 'refuse' : 'accept',
        visibleAt: null,
        findings: [finding(day === 200 ? 'meta.absent' : 'meta.stands')],
        evidence,
      };
      before = await desk.store.write((transaction) => recordLook(desk, before, look, transaction));
    }
    const year = await CheckRow.findAll({ where: { place: 'https://quay.example/' }, order: ['checkedAt'] });
    expect(year.map(({ times }) => times)).toEqual([200, 1, 164]);
    await CheckRow.destroy({ where: { place: 'https://quay.example/' } });
  });

  it('lets go what is over and old, never what is needed', async () => {
    const desk = {
      store: storeOf(),
      clock: { now: () => new Date(STAGE_TIME.getTime() + 3 * 365 * DAY) },
    } as unknown as Desk;
    const young = { ...desk, clock: { now: () => new Date(STAGE_TIME.getTime() + 10 * DAY) } };
    expect(await letGo(young, KEEP)).toBe(0);
    const jobs = await JobRow.count();
    expect(jobs).toBeGreaterThan(5);
    // After weeks a job is still told, but no longer each of its pieces.
    const later = { ...desk, clock: { now: () => new Date(STAGE_TIME.getTime() + 7 * 7 * DAY) } };
    await letGo(later, KEEP);
    expect(await JobRow.count()).toBe(jobs);
    const old = (await marit.listJobs()).items.find(({ total }) => total > 0);
    const shown = await marit.showJob({ params: { id: old?.id ?? '' } });
    expect([shown.finished, shown.items, shown.next]).toEqual([old?.total, [], null]);
    const before = await of();
    // A job is kept as long as a request may be sent again that began it.
    await letGo(desk, KEEP);
    expect(await JobRow.count()).toBeGreaterThan(0);
    await rows('DELETE FROM replays');
    await letGo(desk, KEEP);
    expect(await JobRow.count()).toBe(0);
    expect(await JobItemRow.count()).toBe(0);
    // The newest look of each placement stays, with what it rests on.
    expect((await of()).map(({ id }) => id)).toEqual([before[0]?.id]);
    const { placements } = await marit.showEnrolment({ params: { enrolment: 'ferries@house' } });
    expect(placements.find(({ method }) => method === 'meta')?.check?.seenThere).not.toBeNull();
    const [left] = await rows<{ count: number }>(
      'SELECT COUNT(*) AS count FROM evidence WHERE checkId NOT IN (SELECT id FROM checks)',
    );
    expect(left?.count).toBe(0);
  });

  /** The records of the stage, for what has no route of its own. */
  function storeOf(): Store {
    const { sequelize } = EnrolmentRow;
    if (!sequelize) throw new Error('the records are open');
    return {
      sequelize,
      write: (work: Parameters<Store['write']>[0]) =>
        sequelize.transaction((transaction) => work(transaction)),
      change: async (sql: string, values: Values, transaction: never) => {
        await sequelize.query(sql, { bind: bind(sql, values), transaction });
        const [result] = await sequelize.query('SELECT changes() AS count', { transaction });
        return (result as { count: number }[])[0]?.count ?? 0;
      },
    } as unknown as Store;
  }
});
