import { describe, expect, it, test } from 'vitest';
import type { Beside } from '../../src/core/sitemap/read/beside.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';
import type { Extensions, FileReading } from '../../src/core/sitemap/reading.js';

/** What is told of the entries of a sitemap and of the markup around them, case by case. */

const NOW = new Date('2026-11-25T08:00:00Z');
const DOOR = 'https://quay.example';
const FILE = `${DOOR}/sitemap.xml`;
const OWN = 'http://www.sitemaps.org/schemas/sitemap/0.9';
const XHTML = 'http://www.w3.org/1999/xhtml';
const ATOM = 'http://www.w3.org/2005/Atom';

function read(text: string, beside: Beside = {}, url = FILE): FileReading {
  const reader = new SitemapReader(url, NOW, beside);
  reader.write(text);
  return reader.end();
}

const codes = ({ findings }: FileReading) => findings.map(({ code }) => code);
const set = (inside: string, more = '') => `<urlset xmlns="${OWN}"${more}>${inside}</urlset>`;
const url = (inside: string, address = `${DOOR}/a`) => `<url><loc>${address}</loc>${inside}</url>`;
const urls = (...addresses: string[]) => set(addresses.map((one) => url('', one)).join('\n'));

describe('an address of a sitemap', () => {
  const long = (length: number) => `${DOOR}/`.padEnd(length, 'a');
  test.each<[string, string, string | null]>([
    ['as it should be', `${DOOR}/berths?of=a,b&amp;c=(1)`, null],
    ['as long as it may be', long(2_047), null],
    ['one letter longer', long(2_048), 'sitemap.too-long'],
    ['nothing', '', 'sitemap.no-location'],
    ['blanks', '  ', 'sitemap.no-location'],
    ['a path', '/berths', 'sitemap.relative'],
    ['a host', 'quay.example/berths', 'sitemap.relative'],
    ['words before it', `see ${DOOR}/a`, 'sitemap.relative'],
    ['a host that is none', 'https://quay example/a', 'sitemap.not-an-address'],
    ['an accent', `${DOOR}/kölle`, 'sitemap.unescaped'],
    ['half an escape', `${DOOR}/a%2`, 'sitemap.unescaped'],
    ['an escape', `${DOOR}/a%2F`, null],
    ['brackets', `${DOOR}/a[1]`, null],
    ['another host', 'https://other.example/a', 'sitemap.other-host'],
    ['another way of fetching', 'http://quay.example/a', 'sitemap.other-scheme'],
  ])('%s', (_, address, code) => {
    expect(codes(read(urls(address)))).toEqual(code === null ? [] : [code]);
  });
  test.each<[string, string, string[]]>([
    ['in the folder', `${DOOR}/shop/a`, []],
    ['beside the folder', `${DOOR}/attic/a`, ['sitemap.outside']],
    ['a folder that begins alike', `${DOOR}/shopping/a`, ['sitemap.outside']],
  ])('of a sitemap in a folder: %s', (_, address, told) => {
    expect(codes(read(urls(address), {}, `${DOOR}/shop/s.xml`))).toEqual(told);
  });
  it('of a feed in a folder: the rule is none of feeds', () => {
    const feed = `<rss version="2.0"><channel><item><link>${DOOR}/attic/a</link></item></channel></rss>`;
    expect(codes(read(feed, {}, `${DOOR}/shop/feed.xml`))).toEqual(['sitemap.feed-outside']);
  });
  test.each<[string, string, string, string[]]>([
    ['at the front door', FILE, `${DOOR}/a`, []],
    ['at another variant', FILE, 'http://www.quay.example/a', ['sitemap.not-at-door']],
    [
      'at a variant, as the file is',
      'http://www.quay.example/s.xml',
      'http://www.quay.example/a',
      ['sitemap.not-at-door'],
    ],
    ['at a third host', FILE, 'https://other.example/a', ['sitemap.other-host']],
  ])('beside the front door: %s', (_, file, address, told) => {
    const door = { origin: DOOR, others: new Set(['http://www.quay.example']) };
    const reading = read(urls(address), { door }, file);
    expect(codes(reading)).toEqual(told);
    if (told[0] === 'sitemap.not-at-door')
      expect(reading.findings[0]?.evidence).toMatchObject({ door: DOOR, first: address, line: 1 });
  });
  it('twice is told, and counted', () => {
    const { entries, findings } = read(urls(`${DOOR}/a`, `${DOOR}/b`, `${DOOR}/a`, `${DOOR}/a`));
    expect(entries).toBe(4);
    expect(findings).toMatchObject([
      { code: 'sitemap.twice', evidence: { count: 2, first: `${DOOR}/a`, line: 3 } },
    ]);
  });
  it('is taken once, and not for the first where another file has it', () => {
    const taken: [string, number, boolean][] = [];
    const reading = read(urls(`${DOOR}/a`, `${DOOR}/b`, `${DOOR}/a`), {
      isElsewhere: () => taken.length === 1,
      take: (_hash, address, nth, isFirst) => void taken.push([String(address), nth, isFirst]),
    });
    expect(taken).toEqual([
      [`${DOOR}/a`, 1, true],
      [`${DOOR}/b`, 2, false],
    ]);
    expect(codes(reading).sort()).toEqual(['sitemap.in-two', 'sitemap.twice']);
  });
  it('is held against the rules for engines; a sitemap of an index is not', () => {
    const forbids = (path: string) =>
      path.startsWith('/cellar')
        ? { rule: 'Disallow: /cellar', line: 2, whom: 'engines', robots: `${DOOR}/robots.txt` }
        : null;
    expect(codes(read(urls(`${DOOR}/cellar/wine`, `${DOOR}/a`), { forbids }))).toEqual([
      'sitemap.forbidden-addresses',
    ]);
    const index = `<sitemapindex xmlns="${OWN}"><sitemap><loc>${DOOR}/cellar/s.xml</loc></sitemap></sitemapindex>`;
    expect(codes(read(index, { forbids }))).toEqual([]);
  });
  it('on other hosts is counted by host, most first, twenty hosts at most', () => {
    const at = (host: number, path: string) => `https://h${String(host)}.example/${path}`;
    const many = Array.from({ length: 21 }, (_, host) => at(host, 'x'));
    const { onOtherHosts, findings } = read(urls(...many, at(1, 'a'), at(20, 'b'), at(3, 'c'), at(3, 'd')));
    expect(onOtherHosts).toHaveLength(20);
    expect(onOtherHosts.slice(0, 2)).toEqual([
      { host: 'h3.example', count: 3, first: at(3, 'x'), line: 4, column: expect.any(Number) as number },
      { host: 'h1.example', count: 2, first: at(1, 'x'), line: 2, column: expect.any(Number) as number },
    ]);
    expect(findings).toMatchObject([
      { code: 'sitemap.other-host', evidence: { count: 25, first: at(0, 'x') } },
    ]);
  });
  it('of a sitemap elsewhere is counted by host, too', () => {
    const child = (where: string) => `<sitemap><loc>${where}</loc></sitemap>`;
    const index = `<sitemapindex xmlns="${OWN}">${child('https://other.example/s.xml')}${child(`${DOOR}/s.xml`)}</sitemapindex>`;
    const reading = read(index);
    expect(codes(reading)).toEqual(['sitemap.child-elsewhere']);
    expect(reading.onOtherHosts).toMatchObject([{ host: 'other.example', count: 1 }]);
    expect(reading.children).toEqual(['https://other.example/s.xml', `${DOOR}/s.xml`]);
    expect([reading.kind, reading.entries]).toEqual(['index', 2]);
  });
  it('faults are told with the most frequent first', () => {
    expect(codes(read(urls('/a', `${DOOR}/ö`, '/b', 'https://other.example/', '/c', `${DOOR}/ü`)))).toEqual([
      'sitemap.relative',
      'sitemap.unescaped',
      'sitemap.other-host',
    ]);
  });
});

describe('what is said of an entry', () => {
  const dated = (...dates: string[]) =>
    set(dates.map((one, at) => url(`<lastmod>${one}</lastmod>`, `${DOOR}/${String(at)}`)).join('\n'));
  const days = (ms: number) => new Date(NOW.getTime() + ms).toISOString();
  const DAY = 86_400_000;
  test.each<[string, string, string[]]>([
    ['a year', '2026', []],
    ['a month', '2026-10', []],
    ['a day', '2026-10-01', []],
    ['a minute', '2026-10-01T10:00Z', []],
    ['a second, elsewhere', '2026-10-01T10:00:00+02:00', []],
    ['a part of a second', '2026-10-01T10:00:00.25Z', []],
    ['a second of nowhere', '2026-10-01T10:00:00', ['sitemap.bad-date']],
    ['a day that is none', '2026-13-01', ['sitemap.bad-date']],
    ['another form', '01.10.2026', ['sitemap.bad-date']],
    ['something behind it', '2026-10-01 ?', ['sitemap.bad-date']],
    ['nothing', '', ['sitemap.bad-date']],
    ['tomorrow', days(DAY), []],
    ['a moment after tomorrow', days(DAY + 1), ['sitemap.future-date']],
  ])('a date: %s', (_, text, told) => {
    expect(codes(read(dated(text)))).toEqual(told);
  });
  test.each<[string, string[], string | null, string[]]>([
    ['none that is right', ['x'], null, ['sitemap.bad-date']],
    ['the newest, wherever it stands', ['2026-10-01', '2026-11-01', '2026-09-01'], '2026-11-01', []],
    ['of two alike the first', ['2026-10-01', '2026-10-01T00:00:00Z'], '2026-10-01', []],
    ['none of the future', ['2026-10-01', '2027-10-01'], '2026-10-01', ['sitemap.future-date']],
    ['nine alike', Array<string>(9).fill('2026-10-01'), '2026-10-01', []],
    ['ten alike', Array<string>(10).fill('2026-10-01'), '2026-10-01', ['sitemap.dates-alike']],
    [
      'ten alike and one that is not',
      [...Array<string>(10).fill('2026-10-01'), '2026-10-02'],
      '2026-10-02',
      [],
    ],
    [
      'ten by turns',
      [...Array<string>(5).fill('2026-10-01'), ...Array<string>(5).fill('2026-10-02')],
      '2026-10-02',
      [],
    ],
  ])('the newest date: %s', (_, dates, newest, told) => {
    const reading = read(dated(...dates));
    expect([reading.newestLastmod, codes(reading)]).toEqual([newest, told]);
  });
  it('dates alike are counted', () => {
    expect(read(dated(...Array<string>(12).fill('2026-10-01'))).findings[0]?.evidence).toMatchObject({
      count: 12,
      date: '2026-10-01',
    });
  });
  test.each<[string, boolean]>([
    ['0', true],
    ['1', true],
    ['0.5', true],
    ['0.25', true],
    ['.5', true],
    ['.25', true],
    ['1.0', true],
    ['1.00', true],
    ['1.5', false],
    ['2', false],
    ['-0.5', false],
    ['0,5', false],
    ['x0', false],
    ['0.5x', false],
    ['.x', false],
    ['high', false],
    ['', false],
  ])('a priority of “%s” is right: %s', (text, right) => {
    expect(codes(read(set(url(`<priority>${text}</priority>`))))).toEqual(
      right ? [] : ['sitemap.bad-priority'],
    );
  });
  test.each<[string, boolean]>([
    ['daily', true],
    ['never', true],
    ['Daily', false],
    ['sometimes', false],
  ])('a frequency of “%s” is right: %s', (text, right) => {
    expect(codes(read(set(url(`<changefreq>${text}</changefreq>`))))).toEqual(
      right ? [] : ['sitemap.bad-frequency'],
    );
  });
});

describe('the markup of a sitemap', () => {
  const none: Extensions = { images: 0, videos: 0, news: 0, alternates: 0 };
  const more = ` xmlns:i="urn:images" xmlns:x="${XHTML}"`;
  test.each<[string, string, Extensions]>([
    ['pictures', '<i:image><i:loc>x</i:loc></i:image><i:image/>', { ...none, images: 2 }],
    ['films', '<i:video><i:image/></i:video>', { ...none, videos: 1 }],
    ['news', '<i:news/>', { ...none, news: 1 }],
    ['siblings', '<x:link rel="alternate"/><x:link/>', { ...none, alternates: 2 }],
    ['links of others', '<i:link/>', none],
    ['other words of theirs', '<x:p/><i:other/>', none],
    ['pictures within pictures', '<i:other><i:image/></i:other>', none],
  ])('of an entry: %s', (_, inside, extensions) => {
    const reading = read(set(url(inside), more));
    expect(reading.extensions).toEqual(extensions);
    expect(codes(reading)).toEqual([]);
  });
  it('of others beside the entries counts for nothing', () => {
    expect(read(set(`<i:image/>${url('')}`, more)).extensions).toEqual(none);
  });
  test.each<[string, string, string[]]>([
    [
      'an entry without an address',
      set(`<url><priority>1</priority></url>${url('')}`),
      ['sitemap.no-location'],
    ],
    ['an entry of nothing', set(`${url('')}<url></url>`), ['sitemap.no-location']],
    ['something else beside the entries', set(`${url('')}<berth></berth>`), []],
    ['an entry within an entry', set(`<url><loc>${DOOR}/a</loc><url></url></url>`), []],
    ['an address beside the entries', set(`<loc>${DOOR}/a</loc>`), ['sitemap.empty']],
    [
      'an address of a foreign kind',
      set(`<url><i:loc>${DOOR}/a</i:loc></url>`, more),
      ['sitemap.empty', 'sitemap.no-location'],
    ],
    ['text beside the address', set(`<url>words<loc>${DOOR}/a</loc>words</url>`), []],
    ['an address in a section of characters', set(`<url><loc><![CDATA[${DOOR}/a?b&c]]></loc></url>`), []],
    ['a field that is none', set(url('<berth>x</berth>')), []],
    ['no namespace', `<urlset>${url('')}</urlset>`, ['sitemap.wrong-namespace']],
    ['another namespace', `<urlset xmlns="urn:berths">${url('')}</urlset>`, ['sitemap.wrong-namespace']],
    ['a page', `<?xml version="1.0"?><html xmlns="${XHTML}"/>`, ['sitemap.page-instead']],
    ['a page in capitals', '<?xml version="1.0"?><HTML/>', ['sitemap.page-instead']],
    ['another root', '<berths/>', ['sitemap.wrong-root']],
    ['a type', `<!DOCTYPE urlset>${set(url(''))}`, []],
    [
      'a type with words of its own',
      `<!DOCTYPE urlset [<!ENTITY a "b">]>${set(url(''))}`,
      ['sitemap.entities'],
    ],
    ['an element that does not end', `<urlset xmlns="${OWN}">${url('')}`, ['sitemap.not-well-formed']],
    ['a field that does not end', `<urlset xmlns="${OWN}"><url><loc>${DOOR}/a`, ['sitemap.not-well-formed']],
    ['a bare sign', set(url('', `${DOOR}/a?b=1&c=2`)), ['sitemap.not-well-formed']],
    ['two roots', `${set(url(''))}${set('')}`, ['sitemap.not-well-formed']],
  ])('%s', (_, text, told) => {
    expect(codes(read(text)).sort()).toEqual(told);
  });
  test.each<[string, string, RegExp, [line: number, column: number] | null]>([
    [
      'a bare sign',
      set(`\n<url>\n <loc>${DOOR}/a?b=1&c=2</loc></url>`),
      /an “&” that is not written/u,
      [3, 6],
    ],
    [
      'a field that does not end',
      `<urlset xmlns="${OWN}">\n<url><loc>${DOOR}/a`,
      /^<loc> does not end; most often/u,
      null,
    ],
    ['an entry that does not end', `<urlset xmlns="${OWN}">\n<url>`, /^unclosed tag/u, null],
    ['elements that cross', set('<url></loc></url>'), /^(?!\d+:)/u, null],
  ])('where it is not well formed: %s', (_, text, detail, place) => {
    const [told] = read(text).findings;
    expect(told?.evidence['detail']).toMatch(detail);
    if (place) expect([told?.evidence['line'], told?.evidence['column']]).toEqual(place);
  });
  it('what it should have been is told', () => {
    const [none] = read(`<urlset>${url('')}</urlset>`).findings;
    expect(none?.evidence).toMatchObject({ found: 'none', wanted: OWN });
    const [other] = read('<rss xmlns="urn:berths"><channel/></rss>').findings;
    expect(other?.evidence).toMatchObject({ found: 'urn:berths', wanted: 'none' });
  });
  const deep = (levels: number) => set(`${'<a>'.repeat(levels)}${'</a>'.repeat(levels)}${url('')}`);
  const attributed = (count: number) =>
    set(
      `<url ${Array.from({ length: count }, (_, at) => `a${String(at)}=""`).join(' ')}><loc>${DOOR}/a</loc></url>`,
    );
  const run = (letters: number) => set(`${url('')}${' '.repeat(letters)}`);
  test.each<[string, string, string | null, number | null]>([
    ['as deep as is read', deep(63), null, null],
    ['a level deeper', deep(64), 'sitemap.too-deep', 1],
    ['as many attributes as are read', attributed(256), null, null],
    ['one attribute more', attributed(257), 'sitemap.too-deep', 1],
    ['a long text', run(1_900_000), null, null],
  ])('its bounds: %s', (_, text, code, line) => {
    const reading = read(text);
    expect(codes(reading)).toEqual(code === null ? [] : [code]);
    if (line !== null) expect(reading.findings[0]?.evidence).toMatchObject({ line, limit: 64 });
    expect(reading.entries).toBe(code === 'sitemap.too-deep' ? 0 : 1);
  });
  test.each([
    [1_999_999, []],
    [2_100_000, ['sitemap.too-heavy']],
  ])('a text of %i letters, as it comes', (letters, told) => {
    const reader = new SitemapReader(FILE, NOW);
    const text = run(letters);
    for (let at = 0; at < text.length; at += 50_000) reader.write(text.slice(at, at + 50_000));
    const reading = reader.end();
    expect(codes(reading)).toEqual(told);
    if (told.length > 0) expect(reading.findings[0]?.evidence['what']).toContain('text');
  });
  it('a field of any length is read as far as is of use', () => {
    const [told] = read(set(`<url><loc>${`${DOOR}/`.padEnd(9_000, 'a')}</loc></url>`)).findings;
    expect(told).toMatchObject({ code: 'sitemap.too-long' });
    expect(codes(read(set(url(`<lastmod>2026-10-01${' '.repeat(5_000)}</lastmod>`))))).toEqual([]);
  });
});

describe('feeds', () => {
  const rss = (items: string) => `<rss version="2.0"><channel><link>${DOOR}/</link>${items}</channel></rss>`;
  const atom = (entries: string) =>
    `<feed xmlns="${ATOM}"><link href="${DOOR}/"/><updated>2026-01-01</updated>${entries}</feed>`;
  test.each<[string, string, [kind: string, entries: number, newest: string | null], string[]]>([
    [
      'of one kind',
      rss(`<item><link> ${DOOR}/a </link><pubDate>Thu, 01 Oct 2026 10:00:00 GMT</pubDate></item>`),
      ['rss', 1, 'Thu, 01 Oct 2026 10:00:00 GMT'],
      [],
    ],
    [
      'without the day',
      rss(`<item><link>${DOOR}/a</link><pubDate>1 Oct 26 10:00 GMT</pubDate></item>`),
      ['rss', 1, '1 Oct 26 10:00 GMT'],
      [],
    ],
    [
      'with a date of another form',
      rss(`<item><link>${DOOR}/a</link><pubDate>2026-10-01</pubDate></item>`),
      ['rss', 1, null],
      ['sitemap.bad-date'],
    ],
    [
      'with words before the date',
      rss(`<item><link>${DOOR}/a</link><pubDate>on 1 Oct 2026 10:00 GMT</pubDate></item>`),
      ['rss', 1, null],
      ['sitemap.bad-date'],
    ],
    [
      'without a link',
      rss(`<item><title>x</title></item><item><link>${DOOR}/a</link></item>`),
      ['rss', 1, null],
      ['sitemap.no-location'],
    ],
    [
      'of the other kind',
      atom(
        `<entry><link rel="self" href="${DOOR}/self"/><link href=" ${DOOR}/a "/><link href="${DOOR}/b"/><updated>2026-10-01</updated></entry>`,
      ),
      ['atom', 1, '2026-10-01'],
      [],
    ],
    [
      'with a link that says it is one',
      atom(`<entry><link rel="alternate" href="${DOOR}/a"/></entry>`),
      ['atom', 1, null],
      [],
    ],
    [
      'with links of other kinds alone',
      atom(`<entry><link rel="edit" href="${DOOR}/a"/></entry><entry><link href="${DOOR}/b"/></entry>`),
      ['atom', 1, null],
      ['sitemap.no-location'],
    ],
    ['with a link to nothing', atom('<entry><link/></entry>'), ['atom', 1, null], ['sitemap.no-location']],
  ])('%s', (_, text, [kind, entries, newest], told) => {
    const reading = read(text);
    expect([reading.kind, reading.entries, reading.newestLastmod]).toEqual([kind, entries, newest]);
    expect(codes(reading)).toEqual(told);
  });
});

describe('a list of addresses', () => {
  it('is told by line and column', () => {
    const { findings, entries } = read(`${DOOR}/a\r\n\n   ${DOOR}/ö  \n\t/b`);
    expect(entries).toBe(3);
    expect(findings).toMatchObject([
      { code: 'sitemap.unescaped', evidence: { line: 3, column: 4 } },
      { code: 'sitemap.relative', evidence: { line: 4, column: 2 } },
    ]);
  });
  it('of lines that end or do not', () => {
    expect(read(`${DOOR}/a\n${DOOR}/b`).entries).toBe(2);
    expect(read(`${DOOR}/a\n${DOOR}/b\n`).entries).toBe(2);
    expect(read(`${DOOR}/a\n\n\n`).entries).toBe(1);
  });
  it('a line without end is held no longer than is of use', () => {
    const reader = new SitemapReader(FILE, NOW);
    reader.write(`${DOOR}/a\n`.padEnd(600, 'x'));
    for (let piece = 0; piece < 20; piece += 1) reader.write('x'.repeat(1_000));
    reader.write(`\n${DOOR}/b`);
    expect(codes(reader.end())).toEqual(['sitemap.too-long']);
  });
});
