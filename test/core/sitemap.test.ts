import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { parseAddress } from '../../src/core/address/web-address.js';
import { readSitemapEntry } from '../../src/core/sitemap/entry.js';
import { MAX_ADDRESSES, NAMESPACE } from '../../src/core/sitemap/read/limits.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';
import { finding } from '../../src/core/findings/catalogue.js';
import { worstFirst } from '../../src/core/findings/finding.js';
import { placesToLook, placeToSubmit, type CandidateRead } from '../../src/core/sitemap/candidates.js';
import { NO_EXTENSIONS } from '../../src/core/sitemap/reading.js';
import { judgeSurroundings, type Surroundings } from '../../src/core/sitemap/surroundings.js';
import { submissionForm } from '../../src/core/sitemap/submission.js';
import { house, veldrane } from '../support/profiles.js';

const NOW = new Date('2026-11-25T08:00:00Z');
const URL_OF_IT = 'https://quay.example/sitemap.xml';
const loc = (path: string) =>
  `<url><loc>https://quay.example${path}</loc><lastmod>2026-10-0${String(1 + (path.length % 9))}</lastmod></url>`;
const urlset = (inner: string, namespace = NAMESPACE) =>
  `<?xml version="1.0"?><urlset xmlns="${namespace}">${inner}</urlset>`;

function read(text: string, url = URL_OF_IT, piece = 7) {
  const reader = new SitemapReader(url, NOW);
  for (let at = 0; at < text.length; at += piece) reader.write(text.slice(at, at + piece));
  return reader.end();
}

describe('reading a sitemap', () => {
  test.each([
    ['a urlset', urlset(loc('/a') + loc('/b')), 'urlset', 2, []],
    [
      'an index',
      `<sitemapindex xmlns="${NAMESPACE}"><sitemap><loc>https://quay.example/1.xml</loc></sitemap></sitemapindex>`,
      'index',
      1,
      [],
    ],
    [
      'CDATA and escapes',
      urlset(
        '<url><loc><![CDATA[https://quay.example/a?b&c]]></loc></url><url><loc>https://quay.example/?a&amp;b</loc></url>',
      ),
      'urlset',
      2,
      [],
    ],
    ['an empty one', urlset(''), 'urlset', 0, ['sitemap.empty']],
    [
      'another namespace',
      urlset(loc('/a'), 'http://wrong.example/'),
      'urlset',
      1,
      ['sitemap.wrong-namespace'],
    ],
    ['an HTML page', '<!doctype html><html><body>Hello</body></html>', null, 0, ['sitemap.page-instead']],
    ['another root', '<feedlist/>', null, 0, ['sitemap.wrong-root']],
    ['cut in the middle', urlset(loc('/a')).slice(0, -12), 'urlset', 1, ['sitemap.not-well-formed']],
    [
      'a bare ampersand',
      urlset('<url><loc>https://quay.example/?a&b</loc></url>'),
      'urlset',
      0,
      ['sitemap.not-well-formed'],
    ],
    ['nothing at all', '', null, 0, ['sitemap.not-well-formed']],
    [
      'another host',
      urlset('<url><loc>https://other.example/</loc></url>' + loc('/a')),
      'urlset',
      2,
      ['sitemap.other-host'],
    ],
    [
      'an entity that would expand',
      `<!DOCTYPE urlset [<!ENTITY a "b">]>${urlset('<url><loc>&a;</loc></url>').slice(21)}`,
      'urlset',
      1,
      ['sitemap.entities', 'sitemap.relative'],
    ],
    [
      'an image’s own loc is no address',
      urlset(
        `<url><loc>https://quay.example/a</loc><i:image xmlns:i="http://images.example/"><i:loc>https://x.example/</i:loc></i:image></url>`,
      ),
      'urlset',
      1,
      [],
    ],
  ])('%s', (_, text, kind, entries, codes) => {
    const reading = read(text);
    expect(reading).toMatchObject({ kind, entries });
    expect(reading.findings.map(({ code }) => code)).toEqual(codes);
  });

  it('names line and column of what is wrong', () => {
    const [one] = read(urlset('\n<url>\n  <loc>https://quay.example/?a&b</loc></url>')).findings;
    expect(one?.evidence).toMatchObject({ line: 3 });
  });

  it('folds addresses outside its folder into one finding with the first', () => {
    const reading = read(
      urlset(loc('/a') + loc('/shop/b') + loc('/c')),
      'https://quay.example/shop/sitemap.xml',
    );
    expect(reading.findings).toHaveLength(1);
    expect(reading.findings[0]?.evidence).toMatchObject({
      count: 2,
      first: 'https://quay.example/a',
      folder: 'https://quay.example/shop/',
    });
  });

  it('stops at the limit of the protocol', () => {
    const reader = new SitemapReader(URL_OF_IT, NOW);
    reader.write(`<urlset xmlns="${NAMESPACE}">`);
    for (let count = 0; count <= MAX_ADDRESSES; count += 1) reader.write(loc(`/${String(count)}`));
    expect(reader.finished).toBe(true);
    expect(reader.end()).toMatchObject({ entries: MAX_ADDRESSES, findings: [{ code: 'sitemap.too-many' }] });
  });

  it('keeps the newest lastmod', () => {
    expect(
      read(
        urlset(
          '<url><loc>https://quay.example/</loc><lastmod>2026-03-01</lastmod></url><url><loc>https://quay.example/x</loc><lastmod>2026-09-04T10:00:00+02:00</lastmod></url>',
        ),
      ).newestLastmod,
    ).toBe('2026-09-04T10:00:00+02:00');
  });
});

describe('a sitemap as it is typed', () => {
  const door = parseAddress('https://www.quay.example/');
  test.each([
    ['sitemap.xml', 'https://www.quay.example/sitemap.xml'],
    ['/maps/a.xml', 'https://www.quay.example/maps/a.xml'],
    ['https://www.quay.example/s.xml#top', 'https://www.quay.example/s.xml'],
    ['www.quay.example/s.xml', 'https://www.quay.example/s.xml'],
  ])('%s → %s', (typed, url) => {
    expect(readSitemapEntry(door, typed)).toMatchObject({ kind: 'address', url, note: null });
  });
  test.each([
    ['the wrong scheme', 'http://www.quay.example/s.xml'],
    ['no www', 'https://quay.example/s.xml'],
    ['neither, and no scheme', 'quay.example/s.xml'],
    ['in quotes', '“http://quay.example/s.xml”'],
  ])('%s is set right, and told', (_, typed) => {
    const entry = readSitemapEntry(door, typed);
    expect(entry).toMatchObject({ kind: 'address', url: 'https://www.quay.example/s.xml' });
    expect(entry.kind === 'address' && entry.note).toContain('was made https://www.quay.example');
  });
  it('keeps another host of the domain, and says so', () => {
    expect(readSitemapEntry(door, 'https://maps.quay.example/s.xml')).toMatchObject({
      url: 'https://maps.quay.example/s.xml',
      note: expect.stringContaining('the front door is') as string,
    });
  });
  it('refuses what speaks for the neighbours of a folder, and takes what speaks for the root', () => {
    const folder = parseAddress('https://hosting.example/clocks/');
    expect(readSitemapEntry(folder, 'sitemap.xml')).toMatchObject({
      url: 'https://hosting.example/clocks/sitemap.xml',
    });
    expect(readSitemapEntry(folder, '/sitemap.xml')).toMatchObject({
      url: 'https://hosting.example/sitemap.xml',
    });
    expect(readSitemapEntry(folder, '/buttons/sitemap.xml')).toMatchObject({ kind: 'refused' });
  });
  it('tells when it is on another variant, and refuses another domain', () => {
    expect(readSitemapEntry(door, 'http://quay.example/s.xml')).toMatchObject({
      kind: 'address',
      note: expect.stringContaining('http://quay.example') as string,
    });
    for (const typed of ['https://other.example/s.xml', '', 'ftp://quay.example/s.xml'])
      expect(readSitemapEntry(door, typed).kind).toBe('refused');
  });
});

describe('where sitemaps are looked for', () => {
  it('at what robots.txt names first, then feeds, then the usual names of root and folder, each once', () => {
    const places = placesToLook(
      parseAddress('https://quay.example/clocks/'),
      ['https://maps.example/a.xml', '/sitemap.xml', 'https://['],
      ['https://quay.example/feed'],
      ['https://quay.example/clocks/sitemap.xml'],
    );
    expect(places.slice(0, 4).map(({ url, why }) => [url, why])).toEqual([
      ['https://maps.example/a.xml', 'robots'],
      ['https://quay.example/sitemap.xml', 'robots'],
      ['https://quay.example/clocks/sitemap.xml', 'noted'],
      ['https://quay.example/feed', 'feed'],
    ]);
    expect(new Set(places.map(({ url }) => url)).size).toBe(places.length);
    expect(places.map(({ url }) => url)).toContain('https://quay.example/clocks/sitemap.txt');
  });
  const at = (
    name: string,
    kind: CandidateRead['kind'],
    more: Partial<CandidateRead> = {},
  ): CandidateRead => ({
    url: `https://quay.example/${name}`,
    why: 'usual',
    kind,
    entries: 5,
    children: [],
    findings: [],
    ...more,
  });
  test.each<[string, CandidateRead[], string | null]>([
    ['nothing', [], null],
    [
      'the index before its children',
      [
        at('1.xml', 'urlset', { why: 'robots', entries: 900 }),
        at('i.xml', 'index', { children: ['https://quay.example/1.xml'] }),
      ],
      'i.xml',
    ],
    [
      'what robots.txt names',
      [at('a.xml', 'urlset', { entries: 90 }), at('b.xml', 'urlset', { why: 'robots' })],
      'b.xml',
    ],
    ['the larger one', [at('a.xml', 'urlset'), at('b.txt', 'text', { entries: 6 })], 'b.txt'],
    ['never a feed alone', [at('feed', 'rss', { why: 'feed' })], null],
    [
      'nothing that cannot be read',
      [at('a.xml', 'urlset', { findings: [finding('sitemap.empty', { url: 'x' })] })],
      null,
    ],
  ])('%s', (_, found, best) => {
    expect(placeToSubmit(found)?.url.replace('https://quay.example/', '') ?? null).toBe(best);
  });
});

describe('a reading beside what surrounds it', () => {
  const url = 'https://quay.example/sitemap.xml';
  const robots = (text: string, status = 200) => ({ url: 'https://quay.example/robots.txt', status, text });
  const base: Surroundings = {
    robots: robots(`Sitemap: ${url}`),
    agents: [{ title: 'Veldrane', agent: 'veldrane-reader' }],
    before: null,
    now: NOW,
  };
  const reading = {
    kind: 'urlset' as const,
    addresses: 60,
    children: [],
    extensions: NO_EXTENSIONS,
    fingerprint: '',
    newestLastmod: '2026-11-01',
    findings: [],
  };
  test.each<[string, Partial<Surroundings>, Partial<typeof reading>, string[]]>([
    ['nothing to say', {}, {}, []],
    ['fell by a third', { before: { addresses: 90, at: NOW } }, {}, ['sitemap.fell']],
    ['fell by less', { before: { addresses: 89, at: NOW } }, {}, []],
    ['few come and go', { before: { addresses: 5, at: NOW } }, { addresses: 1 }, []],
    ['nothing new for half a year', {}, { newestLastmod: '2026-05-01' }, ['sitemap.stands-still']],
    ['not named', { robots: robots('User-agent: *') }, {}, ['sitemap.not-named']],
    ['named by its path', { robots: robots('sitemap: /sitemap.xml') }, {}, []],
    [
      'forbidden to one engine',
      { robots: robots(`Sitemap: ${url}\nUser-agent: veldrane-reader\nDisallow: /*.xml$`) },
      {},
      ['sitemap.robots-forbids'],
    ],
    ['no robots.txt', { robots: robots('', 404) }, {}, []],
  ])('%s', (_, around, read, codes) => {
    const findings = judgeSurroundings(url, { ...reading, ...read }, { ...base, ...around });
    expect(findings.map(({ code }) => code)).toEqual(codes);
    for (const { says, remedy } of findings) expect(says + remedy).not.toMatch(/\{\w+\}/);
  });
  it('says nothing of what could not be read', () => {
    expect(judgeSurroundings(url, { ...reading, kind: null }, { ...base, robots: robots('') })).toEqual([]);
  });
});

describe('the form in which it is submitted', () => {
  const address = parseScope('address', 'https://quay.example/');
  test.each([
    ['a path for an address', veldrane, address, 'held', 'send', '/sitemap.xml'],
    ['the whole address for a name', veldrane, parseScope('name', 'quay.example'), 'held', 'send', URL_OF_IT],
    ['still sent while slipping', veldrane, address, 'slipping', 'send', '/sitemap.xml'],
    ['not before the badge is held', veldrane, address, 'in-place', 'refused', 'not-held'],
    [
      'not for another variant',
      veldrane,
      parseScope('address', 'http://quay.example/'),
      'held',
      'refused',
      'not-covered',
    ],
    [
      'not a kind that the engine does not take',
      { ...veldrane, sitemaps: { ...veldrane.sitemaps, formats: ['index'] } } as typeof veldrane,
      address,
      'held',
      'refused',
      'not-taken',
    ],
    ['not where none are taken', house, address, 'held', 'refused', 'takes-none'],
  ] as const)('%s', (_, profile, target, badge, kind, detail) => {
    const form = submissionForm(profile, target, badge, URL_OF_IT, 'urlset');
    expect([form.kind, form.kind === 'send' ? form.as : form.why]).toEqual([kind, detail]);
  });
  it('not one more than the engine takes', () => {
    const few = { ...veldrane, sitemaps: { ...veldrane.sitemaps, limit: 3 } } as typeof veldrane;
    const known = (count: number) => submissionForm(few, address, 'held', URL_OF_IT, 'urlset', count);
    expect(known(2).kind).toBe('send');
    expect(known(3)).toMatchObject({ kind: 'refused', why: 'too-many' });
  });
});

it('puts findings in the order of what they do, and of their finding', () => {
  const found = (['note', 'harms', 'stops', 'harms', 'note'] as const).map((grade, at) => ({
    ...finding('sitemap.empty', { url: String(at) }),
    grade,
  }));
  expect(worstFirst(found).map(({ evidence }) => evidence['url'])).toEqual(['2', '1', '3', '0', '4']);
});
