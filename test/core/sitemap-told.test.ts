import { describe, expect, it, test } from 'vitest';
import type { WebAddress } from '../../src/core/address/web-address.js';
import { finding, graded } from '../../src/core/findings/catalogue.js';
import type { Finding } from '../../src/core/findings/finding.js';
import {
  judgeSubmission,
  knowsOnlyFeeds,
  tooManyOf,
  type KnownAt,
} from '../../src/core/sitemap/at-engine.js';
import { SitemapBytesReader } from '../../src/core/sitemap/bytes-reader.js';
import { compareCounts, type CountFacts } from '../../src/core/sitemap/comparison.js';
import { encodingOf, isGzip } from '../../src/core/sitemap/encoding.js';
import { readSitemapEntry } from '../../src/core/sitemap/entry.js';
import { forbiddingOf, namesSitemap } from '../../src/core/sitemap/forbidding.js';
import { toForget } from '../../src/core/sitemap/keeping.js';
import { withLeave } from '../../src/core/sitemap/locations.js';
import { placesToLook, placeToSubmit, type CandidateRead } from '../../src/core/sitemap/candidates.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';
import {
  childOf,
  foldChildren,
  NO_EXTENSIONS,
  stateOf,
  sumOf,
  worstOf,
  worstSitemap,
  type FileReading,
  type SitemapState,
  type WholeReading,
} from '../../src/core/sitemap/reading.js';
import { judgePageOf, judgeSample, type SampledPage } from '../../src/core/sitemap/sample.js';
import { judgeSurroundings, type Surroundings } from '../../src/core/sitemap/surroundings.js';
import { DAY } from '../../src/core/time/duration.js';
import { hop, page } from '../support/evidence.js';
import { known } from '../support/known-sitemap.js';

/** What is told of sitemaps, case by case, in the words of the job. */

const NOW = new Date('2026-11-25T08:00:00Z');
const DOOR = 'https://quay.example';
const FILE = `${DOOR}/sitemap.xml`;
const VELDRANE = { title: 'Veldrane', agent: 'veldrane-reader' };
const OSTRIME = { title: 'Ostrime', agent: null };
const NAMESPACE = 'http://www.sitemaps.org/schemas/sitemap/0.9';
const codes = (findings: readonly { code: string }[]) => findings.map(({ code }) => code);
const robots = (text: string, status = 200) => ({ url: `${DOOR}/robots.txt`, status, text });

const STOPS = finding('sitemap.not-well-formed', { url: FILE, line: 1, column: 1, detail: 'x' });
const HARMS = finding('sitemap.bad-date', {
  url: FILE,
  count: 1,
  first: 'x',
  line: 1,
  column: 1,
  examples: 'x',
});
const NOTE = finding('sitemap.dates-alike', { url: FILE, count: 12, date: '2026-01-01' });
const AWAY = finding('sitemap.not-reached', { url: FILE, reason: 'it does not answer' });

describe('how a sitemap stands', () => {
  test.each<[SitemapState[], SitemapState | 'none']>([
    [[], 'none'],
    [['clean'], 'clean'],
    [['clean', 'unread'], 'unread'],
    [['unread', 'flawed', 'clean'], 'flawed'],
    [['clean', 'unreachable', 'flawed'], 'unreachable'],
  ])('the worst of %j is %s', (states, worst) => {
    expect(worstSitemap(states)).toBe(worst);
  });
  test.each<[string, Parameters<typeof stateOf>[0], SitemapState]>([
    ['nothing found', { kind: 'urlset', findings: [] }, 'clean'],
    ['something to know', { kind: 'urlset', findings: [NOTE] }, 'clean'],
    ['something to mend', { kind: 'urlset', findings: [NOTE, HARMS] }, 'flawed'],
    ['what cannot be read', { kind: null, findings: [STOPS] }, 'flawed'],
    ['what was not reached', { kind: null, findings: [NOTE, AWAY] }, 'unreachable'],
    ['what was never told to be of a kind', { findings: [AWAY] }, 'unreachable'],
    ['an index, one of whose sitemaps was not reached', { kind: 'index', findings: [AWAY] }, 'flawed'],
  ])('%s', (_, reading, state) => {
    expect(stateOf(reading)).toBe(state);
  });
  test.each<[string, Finding[], Finding | null]>([
    ['nothing', [], null],
    ['a note', [NOTE], null],
    ['what harms', [NOTE, HARMS], HARMS],
    ['what stops before what harms', [HARMS, NOTE, STOPS], STOPS],
  ])('the worst of %s', (_, findings, worst) => {
    expect(worstOf(findings)).toBe(worst);
  });

  const file = (more: Partial<FileReading>): FileReading => ({
    kind: 'urlset',
    entries: 7,
    children: [],
    newestLastmod: '2026-11-01',
    extensions: NO_EXTENSIONS,
    onOtherHosts: [],
    findings: [],
    ...more,
  });
  it('one of an index tells its count, its date, how it stands and what is wrong with it', () => {
    const alike = { url: FILE, kind: 'urlset', addresses: 7, newestLastmod: '2026-11-01' };
    expect(childOf(FILE, file({}))).toEqual({ ...alike, state: 'clean', says: null });
    expect(childOf(FILE, file({ findings: [HARMS, STOPS] }))).toEqual({
      ...alike,
      state: 'flawed',
      says: STOPS.says,
    });
  });
  it('the extensions of several are added up', () => {
    const one = { images: 1, videos: 2, news: 3, alternates: 4 };
    expect(sumOf([])).toEqual(NO_EXTENSIONS);
    expect(sumOf([one, { images: 10, videos: 20, news: 30, alternates: 40 }])).toEqual({
      images: 11,
      videos: 22,
      news: 33,
      alternates: 44,
    });
  });
  test.each<[string, Finding[][], [code: string, grade: string, sitemaps: unknown][]]>([
    ['none', [[], []], []],
    ['notes of some', [[NOTE], [NOTE]], []],
    ['one', [[HARMS]], [['sitemap.bad-date', 'harms', undefined]]],
    ['one that is stopped, the others are not', [[STOPS]], [['sitemap.not-well-formed', 'harms', undefined]]],
    [
      'two kinds',
      [[HARMS, STOPS], [HARMS]],
      [
        ['sitemap.bad-date', 'harms', 2],
        ['sitemap.not-well-formed', 'harms', undefined],
      ],
    ],
  ])('faults of the sitemaps of an index: %s', (_, all, told) => {
    expect(foldChildren(all).map(({ code, grade, evidence }) => [code, grade, evidence['sitemaps']])).toEqual(
      told,
    );
  });
  it('a single one of an index is told as it is, and what has no count comes behind what has', () => {
    expect(foldChildren([[HARMS]])).toEqual([HARMS]);
    const many = { ...STOPS, evidence: { ...STOPS.evidence, count: 3 } };
    expect(foldChildren([[STOPS], [many]])[0]?.evidence).toMatchObject({ count: 3, sitemaps: 2 });
    expect(foldChildren([[many], [STOPS]])[0]?.evidence).toMatchObject({ count: 3, sitemaps: 2 });
    expect(foldChildren([[STOPS]])).toEqual([graded('harms', STOPS)]);
  });
});

/** Reads a text in one piece or in several. */
function read(...pieces: string[]): FileReading {
  const reader = new SitemapReader(FILE, NOW);
  for (const piece of pieces) reader.write(piece);
  return reader.end();
}

const urlset = (...addresses: string[]) =>
  `<urlset xmlns="${NAMESPACE}">${addresses.map((one) => `<url><loc>${one}</loc></url>`).join('')}</urlset>`;

describe('what a file is, its beginning tells', () => {
  test.each<[string, string, FileReading['kind'], string[]]>([
    ['a urlset', urlset(`${DOOR}/a`), 'urlset', []],
    ['nothing at all', '', null, ['sitemap.not-well-formed']],
    ['a list of addresses', `${DOOR}/a\n${DOOR}/b\n`, 'text', []],
    ['addresses without encryption', 'http://quay.example/a', 'text', ['sitemap.other-scheme']],
    ['paths', '/berths\n/slipways', 'text', ['sitemap.relative']],
    ['hosts', 'quay.example\n', 'text', ['sitemap.relative']],
    ['a host of three parts', 'www.quay-side.example/berths', 'text', ['sitemap.relative']],
    ['a host and words', 'quay.example is closed', 'text', ['sitemap.relative']],
    ['a stroke by itself', '/ ', null, ['sitemap.not-a-sitemap']],
    ['a word', 'berths', null, ['sitemap.not-a-sitemap']],
    ['a sentence', 'Closed. For the winter', null, ['sitemap.not-a-sitemap']],
    ['marks', '.?.?.?', null, ['sitemap.not-a-sitemap']],
    ['a host that breaks off', 'quay.example:', null, ['sitemap.not-a-sitemap']],
    ['another way of fetching', 'ftp://quay.example/a', null, ['sitemap.not-a-sitemap']],
    ['a page', '<html><p>Closed</p></html>', null, ['sitemap.page-instead']],
    ['a page with its type', '<!DOCTYPE  html><p>Closed</p>', null, ['sitemap.page-instead']],
    ['a page after comments', '<!-- a --> <!-- b -->\n<html>', null, ['sitemap.page-instead']],
    [
      'a page of its type after comments',
      '<!-- a --> <!---->\n<!doctype html><p>Closed',
      null,
      ['sitemap.page-instead'],
    ],
    ['a comment that does not end', '<!-- a ', null, ['sitemap.not-well-formed']],
    ['a comment before a urlset', `<!-- <html> -->${urlset(`${DOOR}/a`)}`, 'urlset', []],
    ['a comment that is long', `<!--->--><html>`, null, ['sitemap.page-instead']],
    [
      'a urlset that speaks of pages',
      urlset(`${DOOR}/a?<html>`.replace('<html>', '&lt;html>')),
      'urlset',
      ['sitemap.unescaped'],
    ],
    ['white space before it', ` \n${urlset(`${DOOR}/a`)}`, 'urlset', []],
    [
      'white space before its declaration',
      ` <?xml version="1.0"?>${urlset(`${DOOR}/a`)}`,
      'urlset',
      ['sitemap.space-before'],
    ],
    ['a mark before its declaration', `\ufeff<?xml version="1.0"?>${urlset(`${DOOR}/a`)}`, 'urlset', []],
    ['a urlset of none', urlset(), 'urlset', ['sitemap.empty']],
    ['another root', '<berths/>', null, ['sitemap.wrong-root']],
  ])('%s', (_, text, kind, told) => {
    const { kind: found, findings } = read(text);
    expect([found, codes(findings)]).toEqual([kind, told]);
    // It makes no difference how it comes.
    expect(codes(read(...text).findings)).toEqual(told);
  });
  it('lines that are passed before it are counted', () => {
    const { findings } = read('\n\n', '\r\n  \n', `\n${DOOR}/a\nhttps://quay.example/ö\n`);
    expect(findings).toMatchObject([{ code: 'sitemap.unescaped', evidence: { line: 7, column: 1 } }]);
    expect(read(`${DOOR}/a\n/b`).findings).toMatchObject([{ evidence: { line: 2 } }]);
    expect(read(`\n${DOOR}/a\n/b`).findings).toMatchObject([{ evidence: { line: 3 } }]);
  });
  it('what is none names where it was', () => {
    expect(read('Closed for the winter').findings).toMatchObject([{ evidence: { url: FILE } }]);
  });
  it('what cannot become one is finished early; what can is not', () => {
    const of = (text: string) => {
      const reader = new SitemapReader(FILE, NOW);
      reader.write(text.padEnd(512));
      const { finished } = reader;
      reader.write('<x>');
      return [finished, reader.end().kind, codes(reader.end().findings)];
    };
    expect(of('<html>')).toEqual([true, null, ['sitemap.page-instead']]);
    expect(of('Closed')).toEqual([true, null, ['sitemap.not-a-sitemap']]);
    expect(of(`${DOOR}/a\n`)).toEqual([false, 'text', ['sitemap.relative']]);
    expect(of('<berths/>')).toEqual([true, null, ['sitemap.wrong-root']]);
    const short = new SitemapReader(FILE, NOW);
    short.write('<html>'.padEnd(511));
    expect(short.finished).toBe(false);
    const inBytes = new SitemapBytesReader(FILE, null, NOW);
    inBytes.write(Buffer.from('<html>'.padEnd(512)));
    expect(inBytes.finished).toBe(true);
    inBytes.write(Buffer.from(urlset(`${DOOR}/a`)));
    expect(inBytes.end().entries).toBe(0);
  });
  it('fifty thousand lines are read, and one more is told once', () => {
    const lines = Array.from({ length: 50_000 }, (_, at) => `${DOOR}/${String(at)}`).join('\n');
    expect(read(lines)).toMatchObject({ entries: 50_000, findings: [] });
    const over = read(`${lines}\n${DOOR}/x\n`, `${DOOR}/y\n`);
    expect([over.entries, codes(over.findings)]).toEqual([50_000, ['sitemap.too-many']]);
  });
});

describe('how bytes become text', () => {
  const bytes = (text: string) => Buffer.from(text, 'latin1');
  test.each<[string, Buffer, string | null, [label: string, by: string, misdeclared: string | null]]>([
    ['nothing said', bytes('<urlset>'), null, ['utf-8', 'default', null]],
    ['a mark', bytes('\xef\xbb\xbf<urlset>'), 'text/xml; charset=koi8-r', ['utf-8', 'mark', null]],
    ['a mark of wide letters', bytes('\xfe\xff\0<'), null, ['utf-16be', 'mark', null]],
    ['a mark of wide letters, turned', bytes('\xff\xfe<\0'), null, ['utf-16le', 'mark', null]],
    ['wide letters without a mark', bytes('\0<\0?'), null, ['utf-16be', 'mark', null]],
    ['wide letters without a mark, turned', bytes('<\0?\0'), null, ['utf-16le', 'mark', null]],
    ['a header', bytes('<urlset>'), 'text/xml; charset=KOI8-R', ['koi8-r', 'header', null]],
    [
      'a header with quotes and blanks',
      bytes('<a>'),
      'text/xml; Charset = "koi8-r"',
      ['koi8-r', 'header', null],
    ],
    ['a header, then more', bytes('<a>'), 'text/xml; charset=koi8-r; x=y', ['koi8-r', 'header', null]],
    ['a header of nothing known', bytes('<a>'), 'text/xml; charset=quayside', ['utf-8', 'default', null]],
    [
      'a declaration',
      bytes('<?xml version="1.0" encoding="ISO-8859-2"?>'),
      null,
      ['iso-8859-2', 'declaration', null],
    ],
    [
      'a declaration with blanks',
      bytes(" \n<?xml version='1.0' encoding = 'koi8-r' ?>"),
      'text/xml',
      ['koi8-r', 'declaration', null],
    ],
    [
      'a declaration behind something',
      bytes('x<?xml version="1.0" encoding="koi8-r"?>'),
      null,
      ['utf-8', 'default', null],
    ],
    [
      'a declaration of another thing',
      bytes('<?xml version="1.0" myencoding="koi8-r"?>'),
      null,
      ['utf-8', 'default', null],
    ],
    [
      'a declaration of nothing known',
      bytes('<?xml version="1.0" encoding="quayside"?>'),
      null,
      ['utf-8', 'default', null],
    ],
    [
      'a header before a declaration',
      bytes('<?xml version="1.0" encoding="koi8-r"?>'),
      'a/b; charset=iso-8859-2',
      ['iso-8859-2', 'header', null],
    ],
    [
      'a header of nothing known before one',
      bytes('<?xml version="1.0" encoding="koi8-r"?>'),
      'a/b; charset=x-no',
      ['koi8-r', 'declaration', null],
    ],
    [
      'wide letters that are not',
      bytes('<?xml version="1.0" encoding="UTF-16"?>'),
      null,
      ['utf-8', 'default', 'UTF-16'],
    ],
    [
      'wide letters by the header that are not',
      bytes('<?xml version="1.0" encoding="koi8-r"?>'),
      'a/b; charset=utf-16',
      ['koi8-r', 'declaration', 'utf-16'],
    ],
    [
      'both say wide letters, the header is told',
      bytes('<?xml version="1.0" encoding="UTF-16LE"?>'),
      'a/b; charset=utf-16be',
      ['utf-8', 'default', 'utf-16be'],
    ],
    [
      'wide letters by the header that may be',
      bytes('\0h\0t'),
      'text/plain; charset=utf-16be',
      ['utf-16be', 'header', null],
    ],
    [
      'wide letters by the header that may be, turned',
      bytes('h\0t\0'),
      'text/plain; charset=utf-16le',
      ['utf-16le', 'header', null],
    ],
  ])('%s', (_, head, contentType, [label, by, misdeclared]) => {
    expect(encodingOf(head, contentType)).toEqual({ label, by, misdeclared });
  });
  test.each<[number[], boolean]>([
    [[0x1f, 0x8b, 8], true],
    [[0x1f, 0x9d], false],
    [[0x00, 0x8b], false],
    [[], false],
  ])('%j is gzip: %s', (head, packed) => {
    expect(isGzip(Uint8Array.from(head))).toBe(packed);
  });
  it('a short file is read at its end, a long one as it comes, and none twice', () => {
    const long = urlset(`${DOOR}/a`, `${DOOR}/${'b'.repeat(300)}`);
    for (const text of [urlset(`${DOOR}/a`), long])
      for (const size of [1, 199, 200, 201, 10_000]) {
        const reader = new SitemapBytesReader(FILE, null, NOW);
        for (let at = 0; at < text.length; at += size) reader.write(Buffer.from(text.slice(at, at + size)));
        expect(reader.end()).toMatchObject({ entries: text === long ? 2 : 1, findings: [] });
      }
  });
});

describe('what is typed for the address of a sitemap', () => {
  const door = (more: Partial<WebAddress> = {}): WebAddress => ({
    scheme: 'https',
    host: 'www.quay.example',
    port: null,
    path: '/',
    ...more,
  });
  const AT = 'https://www.quay.example';
  test.each<[string, string, WebAddress, string | null, RegExp | null]>([
    ['a name', 'sitemap.xml', door(), `${AT}/sitemap.xml`, null],
    ['a path', ' /maps/s.xml ', door(), `${AT}/maps/s.xml`, null],
    ['in quotes and brackets', '<“/s.xml”>', door(), `${AT}/s.xml`, null],
    ['quotes within are left', '/a"b".xml', door(), `${AT}/a%22b%22.xml`, null],
    ['without a scheme', 'www.quay.example/s.xml', door(), `${AT}/s.xml`, null],
    [
      'without a scheme, with a port',
      'www.quay.example:8443/s.xml',
      door({ port: 8443 }),
      `${AT}:8443/s.xml`,
      null,
    ],
    ['at the front door', `${AT}/s.xml?a=1#top`, door(), `${AT}/s.xml?a=1`, null],
    [
      'at another variant',
      'http://quay.example/s.xml?a=1',
      door(),
      `${AT}/s.xml?a=1`,
      /was made https:\/\/www/u,
    ],
    [
      'at another variant with a port',
      'http://quay.example:8080/s.xml',
      door(),
      'http://quay.example:8080/s.xml',
      /^The sitemap is at/u,
    ],
    [
      'at another host of the site',
      'https://maps.quay.example/s.xml',
      door(),
      'https://maps.quay.example/s.xml',
      /^The sitemap is at/u,
    ],
    [
      'a host that ends alike',
      'https://shopwww.quay.example/s.xml',
      door({ host: 'shop.quay.example' }),
      'https://shopwww.quay.example/s.xml',
      /^The sitemap is at/u,
    ],
    ['in its folder', '/shop/s.xml', door({ path: '/shop/' }), `${AT}/shop/s.xml`, null],
    ['at the root, for one in a folder', '/s.xml', door({ path: '/shop/' }), `${AT}/s.xml`, null],
    ['in any folder, for one at the root', '/attic/s.xml', door(), `${AT}/attic/s.xml`, null],
  ])('%s', (_, typed, at, url, note) => {
    const found = readSitemapEntry(at, typed);
    if (found.kind === 'refused') throw new Error(found.says);
    expect(found.url).toBe(url);
    if (note) expect(found.note).toMatch(note);
    else expect(found.note).toBeNull();
  });
  test.each<[string, string, WebAddress, RegExp]>([
    ['nothing', ' "" ', door(), /^Nothing was given/u],
    ['no address', 'https://[', door(), /^“https:\/\/\[” cannot be read/u],
    ['something long that is none', `https://[${'a'.repeat(200)}`, door(), /^“.{80}” cannot be read/u],
    ['another way of fetching', 'ftp://www.quay.example/s.xml', door(), /“ftp:\/\/” is not how/u],
    ['somebody else’s', 'https://attic.example/s.xml', door(), /does not belong/u],
    ['beside its folder', '/attic/s.xml', door({ path: '/shop/' }), /outside of/u],
  ])('is refused: %s', (_, typed, at, says) => {
    const found = readSitemapEntry(at, typed);
    expect(found.kind === 'refused' ? found.says : found.url).toMatch(says);
  });
});

describe('where sitemaps are looked for', () => {
  const door: WebAddress = { scheme: 'https', host: 'quay.example', port: null, path: '/shop/' };
  it('what the robots.txt names first, each place once, and no more than forty', () => {
    const places = placesToLook(door, ['/a.xml', 'http://['], [`${DOOR}/feed`], [FILE, `${DOOR}/a.xml`]);
    expect(places.slice(0, 3)).toEqual([
      { url: `${DOOR}/a.xml`, why: 'robots' },
      { url: FILE, why: 'noted' },
      { url: `${DOOR}/feed`, why: 'feed' },
    ]);
    expect(places.filter(({ url }) => url === FILE)).toHaveLength(1);
    expect(places).toContainEqual({ url: `${DOOR}/shop/sitemap.xml`, why: 'usual' });
    const many = Array.from({ length: 60 }, (_, at) => `/${String(at)}.xml`);
    expect(placesToLook(door, many, [], [])).toHaveLength(40);
  });
  const place = (url: string, more: Partial<CandidateRead> = {}): CandidateRead => ({
    url: `${DOOR}${url}`,
    why: 'usual',
    kind: 'urlset',
    entries: 10,
    children: [],
    findings: [],
    ...more,
  });
  const index = place('/index.xml', {
    kind: 'index',
    entries: 2,
    children: [`${DOOR}/a.xml`, `${DOOR}/b.xml`],
  });
  test.each<[string, CandidateRead[], string | null]>([
    ['nothing', [], null],
    ['one', [place('/a.xml')], '/a.xml'],
    ['what cannot be read', [place('/a.xml', { kind: null })], null],
    ['what nobody can use', [place('/a.xml', { findings: [STOPS] })], null],
    ['what has something to mend', [place('/a.xml', { findings: [HARMS, NOTE] })], '/a.xml'],
    ['a feed', [place('/feed', { kind: 'rss' })], null],
    ['another feed', [place('/feed', { kind: 'atom' })], null],
    [
      'a feed beside a text',
      [place('/feed', { kind: 'atom', entries: 90 }), place('/s.txt', { kind: 'text' })],
      '/s.txt',
    ],
    ['the one with more', [place('/a.xml'), place('/b.xml', { entries: 11 })], '/b.xml'],
    [
      'the one that the robots.txt names',
      [place('/b.xml', { entries: 11 }), place('/a.xml', { why: 'robots' })],
      '/a.xml',
    ],
    [
      'an index before its children',
      [place('/a.xml', { why: 'robots' }), index, place('/b.xml')],
      '/index.xml',
    ],
    [
      'an index before a larger file that is named',
      [place('/c.xml', { why: 'robots', entries: 99 }), index],
      '/index.xml',
    ],
    [
      'a file that is no child before one that is',
      [place('/a.xml', { entries: 99 }), place('/c.xml'), { ...index, findings: [STOPS] }],
      '/c.xml',
    ],
    [
      'what a urlset lists are no children of it',
      [place('/a.xml', { entries: 99 }), place('/c.xml', { children: [`${DOOR}/a.xml`] })],
      '/a.xml',
    ],
  ])('%s', (_, found, chosen) => {
    expect(placeToSubmit(found)?.url ?? null).toBe(chosen === null ? null : DOOR + chosen);
  });
});

describe('what keeps engines from what is listed', () => {
  const both = [VELDRANE, OSTRIME];
  const everyone = 'User-agent: *\nDisallow: /cellar/\n';
  const one = 'User-agent: veldrane-reader\nDisallow: /attic\n';
  test.each<[string, string, string, string | null]>([
    ['a rule for all', everyone, '/cellar/wine', 'engines'],
    ['a rule for all, elsewhere', everyone, '/attic', null],
    ['a rule for one', everyone + one, '/attic', 'Veldrane'],
    ['a rule for all but one that has its own', everyone + one, '/cellar/wine', 'Ostrime'],
    [
      'rules of which only some forbid',
      `User-agent: *\nAllow: /cellar/open\nDisallow: /cellar/\n`,
      '/cellar/wine',
      'engines',
    ],
    [
      'rules of which only some forbid, at what is left',
      `User-agent: *\nAllow: /cellar/open\nDisallow: /cellar/\n`,
      '/cellar/open',
      null,
    ],
    [
      'one set of rules that forbids and one that does not',
      `User-agent: *\nAllow: /\n${one}`,
      '/attic',
      'Veldrane',
    ],
  ])('%s', (_, text, path, whom) => {
    expect(forbiddingOf(robots(text), both)?.(path)?.whom ?? null).toBe(whom);
  });
  it('names a sitemap where one of its addresses is named', () => {
    const seen = robots(`Sitemap: ${FILE}`);
    expect(namesSitemap(seen, [`${DOOR}/other.xml`, FILE])).toBe(true);
    expect(namesSitemap(seen, [`${DOOR}/other.xml`])).toBe(false);
    expect(namesSitemap(null, [FILE])).toBe(false);
  });
});

describe('which readings are kept', () => {
  // A Thursday, on which the weeks since 1970 begin.
  const thursday = Date.UTC(2026, 10, 19);
  const at = (days: number) => ({ at: new Date(thursday - days * DAY) });
  const now = new Date(thursday);
  const kept = (days: readonly number[], all: number, weekly: number) => {
    const readings = days.map(at);
    const gone = toForget(readings, { all: all * DAY, weekly: weekly * DAY }, now);
    return days.filter((_, place) => !gone.some((one) => one === readings[place]));
  };
  test.each<[string, number[], number[]]>([
    ['all young ones', [3, 1, 2, 9], [3, 1, 2, 9]],
    ['one that is just as old as that', [0, 1, 10], [0, 1, 10]],
    ['the first of a week', [0, 1, 15, 18, 21], [0, 1, 21]],
    ['the first of each week', [0, 1, 15, 21, 22, 28], [0, 1, 21, 28]],
    ['in any order', [21, 0, 18, 15, 1], [21, 0, 1]],
    ['one that is just as old as the weekly ones', [0, 1, 70], [0, 1, 70]],
    ['none that is older', [0, 1, 70.5, 71, 300], [0, 1]],
    ['the newest two, however old', [300, 400, 500], [300, 400]],
    ['the newest two, whatever comes first', [500, 300, 400], [300, 400]],
  ])('%s', (_, days, left) => {
    expect(kept(days, 10, 70)).toEqual(left);
  });
});

describe('hosts that let a sitemap speak for them', () => {
  const other = (host: string, count: number, first: string, line: number) => ({
    host,
    count,
    first,
    line,
    column: 1,
  });
  const hosts = ['a', 'b', 'c', 'd', 'e'].map((name, at) =>
    other(`${name}.example`, 9 - at, `https://${name}.example/1`, at + 2),
  );
  const told = finding('sitemap.other-host', {
    url: FILE,
    folder: `${DOOR}/`,
    count: 35,
    first: 'https://a.example/1',
    line: 2,
    column: 1,
    examples: 'https://a.example/1',
  });
  const reading: FileReading = {
    kind: 'urlset',
    entries: 40,
    children: [],
    newestLastmod: null,
    extensions: NO_EXTENSIONS,
    onOtherHosts: hosts,
    findings: [NOTE, told],
  };
  const leave = (...names: string[]) => ({ own: false, hosts: new Set(names) });
  it('none: what was found is what is told', () => {
    expect(withLeave(FILE, reading, leave())).toEqual([NOTE, told]);
  });
  it('one: the rest is counted, with three examples', () => {
    const [note, rest, allowed, ...more] = withLeave(FILE, reading, leave('b.example'));
    expect(more).toEqual([]);
    expect(note).toBe(NOTE);
    expect(rest?.evidence).toMatchObject({
      count: 27,
      first: 'https://a.example/1',
      line: 2,
      examples: 'https://a.example/1 · https://c.example/1 · https://d.example/1',
    });
    expect(allowed).toEqual(
      finding('sitemap.other-host-allowed', {
        url: FILE,
        count: 8,
        hosts: 'b.example',
        first: 'https://b.example/1',
      }),
    );
  });
  it('several: they are named, and added up', () => {
    const all = withLeave(
      FILE,
      reading,
      leave('a.example', 'b.example', 'c.example', 'd.example', 'e.example'),
    );
    expect(codes(all)).toEqual(['sitemap.dates-alike', 'sitemap.other-host-allowed']);
    expect(all[1]?.evidence).toMatchObject({
      count: 35,
      hosts: 'a.example, b.example, c.example, d.example, e.example',
    });
  });
});

describe('the pages that a sitemap lists', () => {
  const here = `${DOOR}/berths`;
  const seen = (text: string | null, more: Parameters<typeof hop>[0] = {}) =>
    page(text, {}, [hop({ url: here, ...more })]);
  const failed = (failure: 'timed-out' | null, end: 'failed' | 'loop') => ({
    ...page(null, {}, [hop({ url: here, failure })]),
    end,
  });
  test.each<[string, Parameters<typeof judgePageOf>[1], SampledPage['fault']]>([
    ['answers', seen('<title>Berths</title>'), null],
    ['answers with what is no page', seen(null), null],
    ['names itself', seen(`<link rel="canonical" href="${here}">`), null],
    [
      'names another',
      seen('<link rel="canonical" href="/other">'),
      { code: 'sitemap.pages-canonical', values: { to: `${DOOR}/other` } },
    ],
    ['fails', failed('timed-out', 'failed'), { code: 'sitemap.pages-fail', values: { reason: 'timed-out' } }],
    [
      'goes round in a circle',
      failed(null, 'loop'),
      { code: 'sitemap.pages-fail', values: { reason: 'loop' } },
    ],
    [
      'was never reached',
      { ...page(null, {}, []), end: 'failed' },
      { code: 'sitemap.pages-fail', values: { reason: 'failed' } },
    ],
    [
      'is gone',
      seen(null, { status: 410 }),
      { code: 'sitemap.pages-fail', values: { reason: 'status 410' } },
    ],
    [
      'leads on',
      page('<p>x', {}, [hop({ url: here, status: 301 }), hop({ url: `${DOOR}/new` })]),
      { code: 'sitemap.pages-lead', values: { to: `${DOOR}/new` } },
    ],
    [
      'wants to stay out',
      seen('<meta name="robots" content="noindex">'),
      { code: 'sitemap.pages-stay-away', values: { found: expect.stringContaining('noindex') as string } },
    ],
    [
      'wants to stay out by its header',
      seen(null, { headers: { 'x-robots-tag': 'noindex' } }),
      { code: 'sitemap.pages-stay-away', values: { found: expect.stringContaining('noindex') as string } },
    ],
  ])('one that %s', (_, there, fault) => {
    expect(judgePageOf(here, there, [VELDRANE, OSTRIME])).toEqual({ address: here, fault });
  });
  it('are told by kinds, each with the first three and what the first says', () => {
    const gone = (path: string): SampledPage => ({
      address: DOOR + path,
      fault: { code: 'sitemap.pages-fail', values: { reason: `status 41${path.slice(1)}` } },
    });
    const fine: SampledPage = { address: here, fault: null };
    expect(judgeSample(FILE, [fine, gone('/0'), gone('/1'), fine, gone('/2'), gone('/3')])).toEqual([
      finding('sitemap.pages-fail', {
        url: FILE,
        asked: 6,
        count: 4,
        first: `${DOOR}/0`,
        examples: `${DOOR}/0 · ${DOOR}/1 · ${DOOR}/2`,
        reason: 'status 410',
      }),
    ]);
    expect(judgeSample(FILE, [fine])).toEqual([]);
  });
});

describe('a reading beside what is around it', () => {
  const whole = (more: Partial<WholeReading> = {}): WholeReading => ({
    kind: 'urlset',
    addresses: 30,
    children: [],
    newestLastmod: '2026-11-20',
    extensions: NO_EXTENSIONS,
    fingerprint: 'f',
    findings: [],
    ...more,
  });
  const around = (more: Partial<Surroundings> = {}): Surroundings => ({
    robots: null,
    agents: [VELDRANE, OSTRIME],
    before: null,
    now: NOW,
    ...more,
  });
  const before = (addresses: number) => around({ before: { addresses, at: NOW } });
  const dated = (days: number) =>
    whole({ newestLastmod: new Date(NOW.getTime() - days * DAY).toISOString() });
  const named = `Sitemap: ${FILE}\n`;
  test.each<[string, WholeReading, Surroundings, string[]]>([
    ['nothing around it', whole(), around(), []],
    ['what could not be read', whole({ kind: null, addresses: 0 }), before(30), []],
    ['as many as before', whole(), before(30), []],
    ['a few less', whole(), before(44), []],
    ['a third less', whole(), before(45), ['sitemap.fell']],
    ['few, all gone', whole({ addresses: 0 }), before(5), []],
    ['six, all gone', whole({ addresses: 0 }), before(6), ['sitemap.fell']],
    ['no date', whole({ newestLastmod: null }), around(), []],
    ['a date that is none', whole({ newestLastmod: 'soon' }), around(), []],
    ['a date of half a year less a day', dated(179), around(), []],
    ['a date of half a year', dated(180), around(), ['sitemap.stands-still']],
    ['named by the robots.txt', whole(), around({ robots: robots(named) }), []],
    ['not named by it', whole(), around({ robots: robots('') }), ['sitemap.not-named']],
    ['beside a robots.txt that does not answer', whole(), around({ robots: robots('', 404) }), []],
    [
      'kept from engines',
      whole(),
      around({ robots: robots(`${named}User-agent: *\nDisallow: /\n`) }),
      ['sitemap.robots-forbids'],
    ],
    [
      'allowed by name',
      whole(),
      around({ robots: robots(`${named}User-agent: *\nAllow: /sitemap\nDisallow: /\n`) }),
      [],
    ],
  ])('%s', (_, reading, surroundings, told) => {
    expect(codes(judgeSurroundings(FILE, reading, surroundings))).toEqual(told);
  });
  test.each<[string, string, string]>([
    ['all', 'User-agent: *\nDisallow: /', 'engines'],
    ['one by name', 'User-agent: veldrane-reader\nDisallow: /', 'Veldrane'],
  ])('whom a robots.txt keeps out: %s', (_, text, whom) => {
    const [told] = judgeSurroundings(FILE, whole(), around({ robots: robots(`${named}${text}`) }));
    expect(told?.evidence).toMatchObject({ whom, line: 3, found: 'Disallow: /' });
  });
  it.each([
    [200.5, 180],
    [209.9, 180],
    [210, 210],
  ])('since when it stands still: %f days are %i or more, in the same words for thirty', (days, shown) => {
    const [told] = judgeSurroundings(FILE, dated(days), around());
    expect(told?.evidence).toMatchObject({ days: shown, newest: dated(days).newestLastmod });
  });
});

describe('what an engine has of it', () => {
  const other = { id: 'ostrime', title: 'Ostrime' };
  const index = (...children: string[]) => known('i', `${DOOR}/i.xml`, { kind: 'index', children });
  test.each<[string, KnownAt[], [string, string, string][]]>([
    ['an index that lists itself', [index(`${DOOR}/i.xml`)], []],
    ['an index of others', [index(`${DOOR}/x.xml`), known('c', `${DOOR}/c.xml`)], []],
    [
      'one of several children',
      [index(`${DOOR}/x.xml`, `${DOOR}/c.xml`), known('c', `${DOOR}/c.xml`)],
      [['c', 'index', `${DOOR}/i.xml`]],
    ],
    [
      'an address within an address',
      [known('a', `${DOOR}/s.xml?of=http://quay.example`), known('b', `${DOOR}/s.xml?of=quay.example`)],
      [],
    ],
    ['the same at two engines', [known('a', FILE), known('b', FILE, { engine: other })], []],
    [
      'three alike',
      [known('a', FILE), known('b', FILE), known('c', FILE)],
      [
        ['b', 'twice', FILE],
        ['c', 'twice', FILE],
      ],
    ],
    [
      'an aside one and two at the door',
      [known('a', 'http://quay.example/sitemap.xml'), known('b', FILE), known('c', FILE)],
      [
        ['a', 'twice', FILE],
        ['c', 'twice', FILE],
      ],
    ],
    [
      'at the door by name, aside by address',
      [known('a', 'http://quay.example/sitemap.xml'), known('n', FILE, { reach: 'name' })],
      [['a', 'twice', FILE]],
    ],
  ])('%s', (_, all, told) => {
    expect([...tooManyOf(all, DOOR)].map(([id, { why, by }]) => [id, why, by])).toEqual(told);
  });
  test.each<[string, KnownAt[], boolean]>([
    ['one feed', [known('f', FILE, { kind: 'rss' })], true],
    ['two kinds of feeds', [known('f', FILE, { kind: 'rss' }), known('g', FILE, { kind: 'atom' })], true],
    [
      'a feed here, a urlset elsewhere',
      [known('f', FILE, { kind: 'atom' }), known('u', FILE, { engine: other })],
      true,
    ],
    ['a feed elsewhere only', [known('f', FILE, { kind: 'atom', engine: other })], false],
    [
      'a feed and what is not read',
      [known('f', FILE, { kind: 'rss' }), known('u', FILE, { kind: null })],
      false,
    ],
  ])('knows only feeds: %s', (_, all, only) => {
    expect(knowsOnlyFeeds(all, 'veldrane')).toBe(only);
  });

  const none = { dueBy: null, gap: null, since: null, why: null };
  const equal = { ...none, state: 'equal', gap: 0 } as const;
  const facts = {
    ours: 40,
    found: 40,
    listed: 40,
    readAt: NOW,
    trouble: null,
    tooMany: null,
    feedAlone: false,
  };
  const told = (counts: Parameters<typeof judgeSubmission>[1], more: object) =>
    judgeSubmission(known('k', FILE), counts, { ...facts, ...more });
  test.each<[string, number | null, number | null, boolean]>([
    ['half of ten', 10, 5, false],
    ['less than half of ten', 10, 4, true],
    ['less than half of nine', 9, 1, false],
    ['none of many', 40, 0, true],
    ['nobody knows how many it found', null, 0, false],
    ['nobody knows how many it lists', 40, null, false],
  ])('lists too few: %s', (_, found, listed, few) => {
    expect(codes(told(equal, { found, listed }))).toEqual(few ? ['sitemap.listed-low'] : []);
  });
  it('names what makes one too many', () => {
    expect(told(equal, { tooMany: { why: 'twice', by: FILE } })[0]?.evidence['other']).toBe(
      'another enrolment',
    );
    expect(told(equal, { tooMany: { why: 'twice', by: `${DOOR}/x` } })[0]?.evidence['other']).toBe(
      `${DOOR}/x`,
    );
  });
  it('is apart only with a gap, and since when', () => {
    const apart = { ...none, state: 'apart', gap: -20, since: NOW } as const;
    expect(told(apart, { found: 60, listed: 60 })[0]?.evidence).toMatchObject({
      gap: 20,
      found: 60,
      ours: 40,
    });
    expect(told({ ...apart, gap: null }, {})).toEqual([]);
    expect(told({ ...apart, since: null }, {})).toEqual([]);
  });

  const week = 7 * DAY;
  const ours = { addresses: 40, atEngineReading: 40, broken: null };
  const engine = { readAt: NOW, found: 40, listed: 40, trouble: null };
  const counts = (more: Partial<CountFacts>): CountFacts => ({
    submittedAt: new Date(NOW.getTime() - week),
    ours,
    engine,
    apartSince: null,
    ...more,
  });
  test.each<[string, CountFacts, string]>([
    ['read and equal', counts({}), 'equal'],
    [
      'not known there, a moment before it is due',
      counts({ engine: null, submittedAt: new Date(NOW.getTime() - week + 1) }),
      'waiting',
    ],
    ['not known there, when it is due', counts({ engine: null }), 'overdue'],
    ['never read, with a count', counts({ engine: { ...engine, readAt: null } }), 'overdue'],
    ['read, without a count', counts({ engine: { ...engine, found: null } }), 'overdue'],
    [
      'read, without a count, in trouble',
      counts({ engine: { ...engine, found: null, trouble: 'no' } }),
      'troubled',
    ],
  ])('compared: %s', (_, one, state) => {
    expect(compareCounts(one, week, NOW).state).toBe(state);
  });
});
