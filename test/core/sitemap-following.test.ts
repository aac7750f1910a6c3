import { describe, expect, it, test } from 'vitest';
import {
  judgeSubmission,
  knowsOnlyFeeds,
  tooManyOf,
  type KnownAt,
} from '../../src/core/sitemap/at-engine.js';
import { compareCounts, type CountFacts } from '../../src/core/sitemap/comparison.js';
import { forbiddingOf, isUnreachable, keptFromUs, namesSitemap } from '../../src/core/sitemap/forbidding.js';
import { toForget } from '../../src/core/sitemap/keeping.js';
import { withLeave } from '../../src/core/sitemap/locations.js';
import type { Beside } from '../../src/core/sitemap/read/beside.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';
import { foldChildren, type FileReading } from '../../src/core/sitemap/reading.js';
import { judgePageOf, judgeSample } from '../../src/core/sitemap/sample.js';
import { turnOf } from '../../src/core/profile/ration.js';
import { finding } from '../../src/core/findings/catalogue.js';
import { DAY } from '../../src/core/time/duration.js';
import { known } from '../support/known-sitemap.js';
import { asksIn, page, to, type Web } from '../support/web.js';

const NOW = new Date('2026-11-25T08:00:00Z');
const DOOR = 'https://quay.example';
const URL_OF_IT = `${DOOR}/sitemap.xml`;
const AGENTS = [
  { title: 'Veldrane', agent: 'veldrane-reader' },
  { title: 'Ostrime', agent: null },
];

function read(addresses: readonly string[], beside: Beside = {}, url = URL_OF_IT): FileReading {
  const reader = new SitemapReader(url, NOW, beside);
  const lines = addresses.map((one) => `<url><loc>${one}</loc></url>`).join('\n');
  reader.write(`<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${lines}</urlset>`);
  return reader.end();
}

const codes = (findings: readonly { code: string }[]) => findings.map(({ code }) => code);
const robots = (text: string, status = 200) => ({ url: `${DOOR}/robots.txt`, status, text });

describe('what a file is held against', () => {
  it('addresses that the robots.txt keeps engines from, with the line that does', () => {
    const forbids = forbiddingOf(
      robots('User-agent: *\nDisallow: /cellar/\nUser-agent: veldrane-reader\nDisallow: /attic'),
      AGENTS,
    );
    const { findings } = read(
      [`${DOOR}/a`, `${DOOR}/cellar/wine`, `${DOOR}/attic`, `${DOOR}/attic/trunk`],
      forbids ? { forbids } : {},
    );
    expect(findings).toMatchObject([
      {
        code: 'sitemap.forbidden-addresses',
        evidence: { count: 3, first: `${DOOR}/cellar/wine`, rule: 'Disallow: /cellar/', rule_line: 2 },
      },
    ]);
    expect(forbids?.('/attic')).toMatchObject({ whom: 'Veldrane', line: 4 });
    expect(forbids?.('/a')).toBeNull();
  });
  it('nobody is asked where the robots.txt forbids nothing or does not answer', () => {
    expect(forbiddingOf(robots('User-agent: *\nAllow: /'), AGENTS)).toBeUndefined();
    expect(forbiddingOf(robots('Disallow: /', 404), AGENTS)).toBeUndefined();
    expect(forbiddingOf(null, AGENTS)).toBeUndefined();
    const keptFrom = keptFromUs(robots('User-agent: *\nDisallow: /cellar'));
    expect([keptFrom?.('/cellar/x'), keptFrom?.('/attic')]).toEqual([true, false]);
    expect(keptFromUs(robots('User-agent: veldrane-reader\nDisallow: /'))?.('/')).toBe(false);
    // By our own name, and by no part of another's.
    const agent = 'YardBadge/1.0 (+https://agency.example/bot)';
    expect(keptFromUs(robots('User-agent: YardBadge\nDisallow: /'), agent)?.('/')).toBe(true);
    expect(keptFromUs(robots('User-agent: YardBadgeOther\nDisallow: /'), agent)?.('/')).toBe(false);
    expect([null, 503, 429, 404, 403, 200].map((status) => isUnreachable({ status }))).toEqual([
      ...[true, true, true],
      ...[false, false, false],
    ]);
  });
  it('the front door, for a file at another variant', () => {
    const door = { origin: DOOR, others: new Set(['http://quay.example']) };
    const aside = read(
      ['http://quay.example/a', 'http://quay.example/b'],
      { door },
      'http://quay.example/s.xml',
    );
    expect(aside.findings).toMatchObject([
      { code: 'sitemap.not-at-door', evidence: { count: 2, door: DOOR } },
    ]);
    expect(read([`${DOOR}/a`], { door }).findings).toEqual([]);
  });
  it('the other files of its index', () => {
    const taken: [string, boolean][] = [];
    const { findings } = read([`${DOOR}/a`, `${DOOR}/b`, `${DOOR}/b`], {
      isElsewhere: () => taken.length === 0,
      take: (_hash, address, _nth, isFirst) => void taken.push([String(address), isFirst]),
    });
    expect(codes(findings).sort()).toEqual(['sitemap.in-two', 'sitemap.twice']);
    expect(taken).toEqual([
      [`${DOOR}/a`, false],
      [`${DOOR}/b`, true],
    ]);
  });
});

describe('the location rule and its exception', () => {
  const reading = read([
    `${DOOR}/a`,
    'https://shop.example/1',
    'https://shop.example/2',
    'https://other.example/x',
  ]);
  const leave = (own: boolean, ...hosts: string[]) => ({ own, hosts: new Set(hosts) });
  it('counts what is on other hosts by host', () => {
    expect(reading.onOtherHosts).toMatchObject([
      { host: 'shop.example', count: 2, line: 3 },
      { host: 'other.example', count: 1, line: 5 },
    ]);
    expect(withLeave(URL_OF_IT, reading, leave(false))).toMatchObject([{ evidence: { count: 3 } }]);
  });
  it('takes off what a robots.txt allows, and leaves the rest', () => {
    const findings = withLeave(URL_OF_IT, reading, leave(false, 'shop.example'));
    expect(findings).toMatchObject([
      { code: 'sitemap.other-host', evidence: { count: 1, first: 'https://other.example/x', line: 5 } },
      { code: 'sitemap.other-host-allowed', grade: 'note', evidence: { count: 2, hosts: 'shop.example' } },
    ]);
    expect(codes(withLeave(URL_OF_IT, reading, leave(false, 'shop.example', 'other.example')))).toEqual([
      'sitemap.other-host-allowed',
    ]);
  });
  it('holds for folders as well', () => {
    const inFolder = read([`${DOOR}/a`], {}, `${DOOR}/maps/s.xml`);
    expect(withLeave(`${DOOR}/maps/s.xml`, inFolder, leave(false))).toMatchObject([{ grade: 'harms' }]);
    expect(withLeave(`${DOOR}/maps/s.xml`, inFolder, leave(true))).toMatchObject([
      { grade: 'note', remedy: '' },
    ]);
  });
  it('is by the Sitemap lines of a robots.txt, whole or not', () => {
    expect(namesSitemap(robots('sitemap: /sitemap.xml'), [URL_OF_IT])).toBe(true);
    expect(namesSitemap(robots('Sitemap: https://quay.example/other.xml'), [URL_OF_IT])).toBe(false);
    expect(namesSitemap(robots('Sitemap: /sitemap.xml', 500), [URL_OF_IT])).toBe(false);
  });
});

describe('the pages of a sample', () => {
  const canonical = (href: string) => `<link rel="canonical" href="${href}">`;
  const web: Web = {
    [`${DOOR}/good`]: page('Good', canonical('/good')),
    [`${DOOR}/moved`]: to(`${DOOR}/good`),
    [`${DOOR}/gone`]: { status: 404 },
    [`${DOOR}/cut`]: { fails: 'timed-out' },
    [`${DOOR}/away`]: page('Away', '<meta name="robots" content="noindex">'),
    [`${DOOR}/header`]: { page: '<p>x</p>', headers: { 'x-robots-tag': 'noindex' } },
    [`${DOOR}/one-engine`]: page('One', '<meta name="veldrane-reader" content="none">'),
    [`${DOOR}/twin`]: page('Twin', canonical('/good')),
  };
  test.each([
    ['good', null],
    ['moved', 'sitemap.pages-lead'],
    ['gone', 'sitemap.pages-fail'],
    ['cut', 'sitemap.pages-fail'],
    ['away', 'sitemap.pages-stay-away'],
    ['header', 'sitemap.pages-stay-away'],
    ['one-engine', 'sitemap.pages-stay-away'],
    ['twin', 'sitemap.pages-canonical'],
  ])('%s', async (path, code) => {
    const address = `${DOOR}/${path}`;
    expect(judgePageOf(address, await asksIn(web)(address), AGENTS).fault?.code ?? null).toBe(code);
  });
  it('are one finding for each kind, with how many were tried', async () => {
    const pages = await Promise.all(
      Object.keys(web).map(async (address) => judgePageOf(address, await asksIn(web)(address), AGENTS)),
    );
    const findings = judgeSample(URL_OF_IT, pages);
    expect(codes(findings).sort()).toEqual([
      'sitemap.pages-canonical',
      'sitemap.pages-fail',
      'sitemap.pages-lead',
      'sitemap.pages-stay-away',
    ]);
    expect(findings.find(({ code }) => code === 'sitemap.pages-stay-away')?.evidence).toMatchObject({
      asked: 8,
      count: 3,
    });
    for (const { says, remedy } of findings) expect(says + remedy).not.toMatch(/\{\w+\}/);
  });
});

describe('our count beside the engine’s', () => {
  const submittedAt = new Date('2026-11-01T00:00:00Z');
  const engine = (found: number | null, trouble: string | null = null) => ({
    readAt: found === null ? null : new Date('2026-11-02T00:00:00Z'),
    found,
    listed: null,
    trouble,
  });
  const ours = (
    addresses: number | null,
    atEngineReading: number | null = null,
    broken: string | null = null,
  ) => ({
    addresses,
    atEngineReading,
    broken,
  });
  const since = new Date('2026-11-03T00:00:00Z');
  test.each<[string, CountFacts['ours'], CountFacts['engine'], number, string, number | null]>([
    ['before it is due', ours(5), null, 1, 'waiting', null],
    ['a failed first reading, before it is due', ours(5), engine(null, 'no'), 1, 'waiting', null],
    ['after it was due', ours(5), null, 4, 'overdue', null],
    ['failed after it was due', ours(5), engine(null, 'no'), 4, 'troubled', null],
    ['broken here, before it is due', ours(null, null, 'gone'), null, 1, 'broken', null],
    ['broken here, and overdue there', ours(null, null, 'gone'), engine(null, 'no'), 4, 'broken', null],
    ['broken here since it was read', ours(null, 5, 'gone'), engine(5), 4, 'broken', null],
    ['the same', ours(5), engine(5), 4, 'equal', 0],
    ['read before, and in trouble now', ours(5), engine(5, 'no'), 4, 'troubled', 0],
    ['fewer at the engine', ours(5), engine(3), 4, 'apart', 2],
    ['more at the engine', ours(5), engine(8), 4, 'apart', -3],
    ['as many as there were when it looked', ours(9, 5), engine(5), 4, 'behind', 4],
    ['ours is unread', ours(null), engine(3), 4, 'apart', null],
  ])('%s', (_, own, at, days, state, gap) => {
    const now = new Date(submittedAt.getTime() + days * DAY);
    const found = compareCounts({ submittedAt, ours: own, engine: at, apartSince: since }, 3 * DAY, now);
    expect(found).toMatchObject({ state, gap });
    expect(found.since).toEqual(state === 'apart' || state === 'behind' ? since : null);
    expect(found.why).toBe(state === 'broken' ? 'gone' : null);
  });
});

describe('sitemaps as an engine knows them', () => {
  const index = known('i', URL_OF_IT, { kind: 'index', children: [`${DOOR}/a.xml`] });
  const other = { id: 'ostrime', title: 'Ostrime' };
  test.each<[string, KnownAt[], [string, string][]]>([
    ['an index alone', [index], []],
    ['a child beside its index', [known('c', `${DOOR}/a.xml`), index], [['c', 'index']]],
    ['a child by another variant', [index, known('c', 'http://www.quay.example/a.xml')], [['c', 'index']]],
    ['a child at another engine', [index, known('c', `${DOOR}/a.xml`, { engine: other })], []],
    [
      'twice, first by the wrong variant',
      [known('w', 'http://quay.example/s.xml'), known('r', `${DOOR}/s.xml`)],
      [['w', 'twice']],
    ],
    [
      'twice, by two enrolments',
      [known('first', `${DOOR}/s.xml`), known('second', `${DOOR}/s.xml`)],
      [['second', 'twice']],
    ],
    [
      'twice, first by name',
      [known('name', `${DOOR}/s.xml`, { reach: 'name' }), known('address', `${DOOR}/s.xml`)],
      [['name', 'twice']],
    ],
    ['two that differ', [known('x', `${DOOR}/x.xml`), known('y', `${DOOR}/y.xml`)], []],
  ])('%s', (_, all, found) => {
    expect([...tooManyOf(all, DOOR)].map(([id, { why }]) => [id, why])).toEqual(found);
  });
  it('are told to be feeds alone', () => {
    const feed = known('f', `${DOOR}/feed`, { kind: 'rss' });
    expect(knowsOnlyFeeds([feed], 'veldrane')).toBe(true);
    expect(knowsOnlyFeeds([feed, index], 'veldrane')).toBe(false);
    expect(knowsOnlyFeeds([], 'veldrane')).toBe(false);
  });
  const none = { dueBy: null, gap: null, since: null, why: null };
  const facts = {
    ours: 40,
    found: 40,
    listed: 38,
    readAt: NOW,
    trouble: null,
    tooMany: null,
    feedAlone: false,
  };
  test.each<[string, Parameters<typeof judgeSubmission>[1], Partial<typeof facts> | object, string[]]>([
    ['equal', { ...none, state: 'equal', gap: 0 }, {}, []],
    ['waiting', { ...none, state: 'waiting', dueBy: NOW }, { found: null, listed: null }, []],
    [
      'overdue',
      { ...none, state: 'overdue', dueBy: NOW },
      { found: null, listed: null },
      ['sitemap.engine-overdue'],
    ],
    [
      'troubled',
      { ...none, state: 'troubled' },
      { found: null, listed: null, trouble: 'no' },
      ['sitemap.engine-troubled'],
    ],
    ['broken', { ...none, state: 'broken', why: 'It is gone.' }, {}, ['sitemap.engine-kept']],
    [
      'apart',
      { ...none, state: 'apart', gap: 20, since: NOW },
      { found: 20, listed: 19 },
      ['sitemap.engine-apart'],
    ],
    [
      'behind',
      { ...none, state: 'behind', gap: 20, since: NOW },
      { found: 20, listed: 19 },
      ['sitemap.engine-behind'],
    ],
    ['listed far below found', { ...none, state: 'equal', gap: 0 }, { listed: 12 }, ['sitemap.listed-low']],
    ['too few to tell', { ...none, state: 'equal', gap: 0 }, { found: 4, listed: 1 }, []],
    [
      'a duplicate',
      { ...none, state: 'equal', gap: 0 },
      { tooMany: { why: 'index', by: URL_OF_IT } },
      ['sitemap.beside-index'],
    ],
    [
      'twice',
      { ...none, state: 'equal', gap: 0 },
      { tooMany: { why: 'twice', by: URL_OF_IT } },
      ['sitemap.sent-twice'],
    ],
    ['a feed alone', { ...none, state: 'equal', gap: 0 }, { feedAlone: true }, ['sitemap.feed-alone']],
  ])('%s is told', (_, counts, more, expected) => {
    const findings = judgeSubmission(known('k', `${DOOR}/s.xml`), counts, { ...facts, ...more });
    expect(codes(findings)).toEqual(expected);
    for (const { says } of findings) expect(says).not.toMatch(/\{\w+\}/);
  });
});

describe('readings over time', () => {
  const at = (days: number) => ({ at: new Date(NOW.getTime() - days * DAY) });
  const keeping = { all: 10 * DAY, weekly: 100 * DAY };
  const left = (all: { at: Date }[]) => {
    const gone = new Set(toForget(all, keeping, NOW));
    return all.filter((one) => !gone.has(one)).map((one) => (NOW.getTime() - one.at.getTime()) / DAY);
  };
  it('are all kept for a while, then one a week, then none', () => {
    const daily = Array.from({ length: 120 }, (_, days) => at(days));
    const kept = left(daily);
    expect(kept.filter((days) => days <= 10)).toHaveLength(11);
    const old = kept.filter((days) => days > 10);
    expect(old.length).toBeGreaterThanOrEqual(12);
    expect(old.length).toBeLessThanOrEqual(14);
    expect(Math.max(...old)).toBeLessThanOrEqual(100);
  });
  it('the newest two always', () => {
    expect(left([at(400), at(500), at(600)])).toEqual([400, 500]);
  });
  it('give way in the same way whenever it is asked', () => {
    const daily = Array.from({ length: 60 }, (_, days) => at(days));
    const once = daily.filter((one) => !toForget(daily, keeping, NOW).includes(one));
    expect(toForget(once, keeping, NOW)).toEqual([]);
  });
  it('of the sitemaps of an index say each kind of fault once', () => {
    const bad = (url: string, count: number) =>
      finding('sitemap.bad-date', { url, count, first: 'x', line: 1, column: 1 });
    const note = finding('sitemap.dates-alike', { url: 'u', count: 20, date: '2026-01-01' });
    const [only, ...rest] = foldChildren([[bad('/a', 2), note], [bad('/b', 9)], []]);
    expect(rest).toEqual([]);
    expect(only?.evidence).toMatchObject({ url: '/b', count: 9, sitemaps: 2 });
    expect(only?.says).toContain('So it is in 2 sitemaps of the index.');
  });
});

describe('turns within a ration', () => {
  const ration = { used: 7, ration: 10, left: 3, until: new Date('2026-11-26T00:00:00Z') };
  test.each([
    [0, null],
    [2, null],
    [3, '2026-11-26'],
    [12, '2026-11-26'],
    [13, '2026-11-27'],
    [23, '2026-11-28'],
  ])('the one after %i others', (nth, day) => {
    expect(turnOf(nth, ration)?.toISOString().slice(0, 10) ?? null).toBe(day);
  });
});
