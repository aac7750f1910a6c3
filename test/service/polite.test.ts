import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { PathSessions } from '../../src/core/sitemap/make/path-sessions.js';
import { retryDelay } from '../../src/core/sitemap/make/retry-delay.js';
import { HOUR } from '../../src/core/time/duration.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

const HOST = 'www.saltmarsh-ferries.example';
const params = { property: 'ferries' };
const NOW = new Date('2026-11-20T08:00:00Z');

test.each([
  ['a page', 200, {}, 1, null],
  ['a refusal for good', 403, { 'retry-after': '5' }, 1, null],
  ['429 with seconds', 429, { 'retry-after': '3600' }, 1, 3_600_000],
  ['503 with a day', 503, { 'retry-after': 'Fri, 20 Nov 2026 08:00:30 GMT' }, 1, 30_000],
  ['a day that is over', 503, { 'retry-after': 'Fri, 20 Nov 2026 07:00:00 GMT' }, 1, 2_000],
  ['years', 503, { 'retry-after': '999999999' }, 1, 86_400_000],
  ['nonsense', 429, { 'retry-after': 'soon' }, 2, 4_000],
  ['no word of it', 429, {}, 1, 2_000],
  ['no word of it, again', 429, {}, 5, 32_000],
  ['too often', 429, { 'retry-after': '5' }, 6, null],
] as const)('%s', (_, status, headers, tries, ms) => {
  expect(retryDelay({ status, headers }, tries, NOW)).toBe(ms);
});

describe('a part of the path that is another for each visit', () => {
  const face = (name: number) => ({ sketch: '0'.repeat(128), text: 1, name, isShell: false, isOwn: false });
  const visit = (nth: number) => `/shop/${String(nth).padStart(20, 'a')}9/tides`;
  it('is told by pages that are the same under it', () => {
    const sessions = new PathSessions();
    const doubles = Array.from({ length: 8 }, (__, nth) => sessions.learn(visit(nth), face(1)));
    expect(doubles).toEqual([false, ...Array.from({ length: 7 }, () => true)]);
    expect(sessions.isAnother(visit(20))).toBe(true);
    expect(sessions.isAnother(visit(0))).toBe(false);
    expect(sessions.isAnother('/shop/tides')).toBe(false);
  });
  it('is none where pages have titles of their own', () => {
    const sessions = new PathSessions();
    for (let nth = 0; nth < 20; nth += 1) sessions.learn(visit(nth), face(nth));
    expect(sessions.isAnother(visit(50))).toBe(false);
  });
});

describe('a website that wants to be asked more slowly', () => {
  let stage: Stage;
  let asked = 0;
  const site = () => {
    const found = stage.world.file.state.sites.find(({ host }) => host === HOST);
    if (!found) throw new Error('no such site');
    return found;
  };
  const pages = async () =>
    (await stage.marit.listMadePages({ params, query: { limit: 500 } })).items.map(({ url }) => url).sort();

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    await stage.order({ do: 'pages', host: HOST, count: 60 });
    stage.world.listeners.add((url) => {
      asked += 1;
      // Whoever comes back is let in.
      const { pathname } = new URL(url);
      if (site().answers[pathname]?.status === 429) setTimeout(() => delete site().answers[pathname], 100);
    });
    await stage.results(stage.marit.makeSitemap({ params, body: {} }));
  });
  afterAll(() => stage.close());

  it('loses no page by it', async () => {
    const all = await pages();
    for (const url of all.filter((_, nth) => nth % 7 === 0))
      site().answers[new URL(url).pathname] = { status: 429 };
    await stage.results(stage.marit.makeSitemap({ params, body: {} }));
    expect(await pages()).toEqual(all);
  });

  it('is left alone for as long as it says, and gone on with then', async () => {
    const all = await pages();
    asked = 0;
    const closed = { status: 503, headers: { 'retry-after': '3600' } };
    for (const url of all) site().answers[new URL(url).pathname] = closed;
    const { id } = await stage.marit.makeSitemap({ params, body: {} });
    const rests = await until(
      () => stage.marit.showJob({ params: { id } }),
      (job) => job.rests !== null,
    );
    expect(rests.items[0]?.result?.says).toContain('asks us to wait until');
    await sleep(1_500);
    expect(asked).toBeLessThan(8);
    site().answers = {};
    await stage.world.advance(HOUR + 5_000);
    await until(
      () => stage.marit.showJob({ params: { id } }),
      ({ state }) => state === 'done',
    );
    expect(await pages()).toEqual(all);
  });
});
