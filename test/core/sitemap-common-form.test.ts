import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CommonForm } from '../../src/core/sitemap/read/common-form.js';
import { UsualForm, type Said } from '../../src/core/sitemap/read/usual-form.js';
import { NAMESPACE } from '../../src/core/sitemap/read/limits.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';
import type { FileReading } from '../../src/core/sitemap/reading.js';
import { numbers } from '../support/numbers.js';
import { CORPUS } from './sitemap-corpus.js';

const FILE = 'https://quay.example/sitemap.xml';
const NOW = new Date('2026-11-25T08:00:00Z');

/** Everything that a reading says, to the last line and column, and every address that it hands on. */
function readAs(text: string, parserAlone: boolean, ends: readonly number[] = []): string {
  const taken: string[] = [];
  const beside = {
    forbids: (path: string) =>
      /[37b]$/.test(path) ? { rule: 'Disallow: /*', line: 2, whom: 'all', robots: 'robots.txt' } : null,
    take: (_: unknown, location: Said, count: number) =>
      void taken.push(`${String(count)} ${String(location)}`),
  };
  const reader = new SitemapReader(FILE, NOW, beside, parserAlone);
  let at = 0;
  for (const end of [...ends, text.length]) {
    reader.write(text.slice(at, end));
    at = end;
  }
  const reading: FileReading = reader.end();
  return JSON.stringify([reading, taken]);
}

const isAlike = (text: string, ends: readonly number[] = []) => {
  const quick = readAs(text, false, ends);
  if (quick !== readAs(text, true)) expect([text, ends, quick]).toEqual([text, ends, readAs(text, true)]);
};

/** Texts that are worth being changed here and there. */
const TEXTS = Object.values(CORPUS)
  .map(({ bytes }) => (typeof bytes === 'string' ? bytes : Buffer.from(bytes).toString()))
  .filter((text) => text.startsWith('<') && text.length < 4_000);

const PIECES = [
  ...[
    '<',
    '>',
    '&',
    ';',
    '/',
    '"',
    "'",
    '=',
    ' ',
    '\n',
    '\r',
    '\r\n',
    '\t',
    ']]>',
    '\u0000',
    '\u0085',
    '\u00a0',
    '\u2028',
  ],
  ...[
    '&amp;',
    '&lt;',
    '&#65;',
    '&#x0;',
    '&nbsp;',
    '<!-- </url> -->',
    '<![CDATA[</url>]]>',
    '<?p </url>?>',
    '<url>',
    '</url>',
  ],
  ...[
    '</url >',
    '<url/>',
    '<loc>',
    '</loc>',
    '<loc/>',
    '<lastmod>2026-11-01</lastmod>',
    '<lastmod>soon</lastmod>',
    '<x>',
    '</x>',
  ],
  ...[
    '<image:image xmlns:image="u"/>',
    '<loc>https://else.example/</loc>',
    '</urlset>',
    '<urlset>',
    'ä',
    '😀',
    '\ud800',
    '\ufeff',
  ],
];

/** A text with something taken out, put in, or put elsewhere. */
function changed(text: string, random: () => number): string {
  const place = () => Math.floor(random() * (text.length + 1));
  const from = place();
  const to = Math.min(text.length, from + Math.floor(random() * 12));
  const piece = PIECES[Math.floor(random() * PIECES.length)] ?? '';
  const way = random();
  if (way < 0.5) return text.slice(0, from) + piece + text.slice(from);
  if (way < 0.7) return text.slice(0, from) + text.slice(to);
  if (way < 0.85) return text.slice(0, from) + piece + text.slice(to);
  const other = place();
  return text.slice(0, other) + text.slice(from, to) + text.slice(other);
}

describe('what is read the quick way', () => {
  it('is what the parser reads, of every text of the corpus, split anywhere', () => {
    expect(TEXTS.length).toBeGreaterThan(60);
    for (const text of TEXTS.filter(({ length }) => length < 700))
      for (let end = 0; end <= text.length; end += 1) isAlike(text, [end]);
    for (const text of TEXTS) isAlike(text);
  });

  it('is what the parser reads, of ten thousand texts that were changed here and there', () => {
    const random = numbers(16);
    for (let nth = 0; nth < 10_000; nth += 1) {
      let text = TEXTS[nth % TEXTS.length] ?? '';
      for (let times = 1 + Math.floor(random() * 3); times > 0; times -= 1) text = changed(text, random);
      const ends = [random(), random()].map((part) => Math.floor(part * text.length)).sort((a, b) => a - b);
      isAlike(text, nth % 3 === 0 ? ends : []);
    }
  });

  it('is what the parser reads, of any entries, common and odd, in any order', () => {
    const blanks = fc.constantFrom('', ' ', '\n', '\r\n  ', '\t', '\n\n', '\r');
    const value = fc.constantFrom(
      ...[
        'https://quay.example/a',
        'https://quay.example/?a=1&amp;b=2',
        ' https://quay.example/b\n',
        'https://else.example/',
      ],
      ...[
        'https://quay.example/ä',
        '',
        '2026-11-01',
        '2026-11-02T10:00:00Z',
        'soon',
        '0.5',
        'daily',
        'a]]b',
        'a>b',
        '😀',
        '&#65;',
      ],
    );
    const name = fc.constantFrom('loc', 'lastmod', 'priority', 'changefreq', 'loc', 'loc', 'other');
    const field = fc
      .tuple(blanks, name, value)
      .map(([blank, tag, text]) => `${blank}<${tag}>${text}</${tag}>`);
    const entry = fc
      .tuple(
        blanks,
        fc.constantFrom('url', 'url', 'url', 'sitemap', 'url a="b"'),
        fc.array(field, { maxLength: 4 }),
        blanks,
      )
      .map(
        ([blank, tag, fields, end]) =>
          `${blank}<${tag}>${fields.join('')}${end}</${tag.split(' ')[0] ?? ''}>`,
      );
    const between = fc.constantFrom('', '', '', '<!-- between -->', 'text', '<?p?>', '<url/>');
    const root = fc.constantFrom('urlset', 'sitemapindex');
    const whole = fc.tuple(root, fc.array(fc.tuple(entry, between), { maxLength: 12 }), blanks);
    fc.assert(
      fc.property(whole, fc.array(fc.nat(4_000), { maxLength: 4 }), ([tag, entries, end], cuts) => {
        const text = `<?xml version="1.0"?>\n<${tag} xmlns="${NAMESPACE}">${entries.flat().join('')}${end}</${tag}>`;
        const ends = cuts.map((cut) => Math.min(cut, text.length)).sort((a, b) => a - b);
        isAlike(text, ends);
      }),
      { numRuns: 2_000 },
    );
  });

  it('goes on the quick way behind what only the parser can read, and tells each place as it does', () => {
    const odd = '<url><loc><![CDATA[https://quay.example/odd?a&b]]></loc></url>';
    const usual = (at: number) => `<url>\n<loc>https://quay.example/p${String(at)}</loc></url>\n`;
    const wrong =
      '<url><loc>nowhere</loc></url><url>\n<loc>https://quay.example/last</loc><lastmod>x</lastmod></url>';
    const entries = Array.from({ length: 40 }, (_, at) => usual(at) + (at % 7 === 0 ? odd : '')).join('');
    const text = `<urlset xmlns="${NAMESPACE}">\n${entries}${wrong}</urlset>`;
    isAlike(text);
    for (let end = 0; end < text.length; end += 17) isAlike(text, [end]);
  });
});

describe('the common form of an entry', () => {
  const form = new CommonForm('url');
  it.each<[string, boolean]>([
    ['<url><loc>https://a.example/</loc></url>', true],
    [' \n\t<url>\r\n <loc> https://a.example/?a&amp;b </loc>\n<priority>1.0</priority></url>', true],
    ['<url></url>', false],
    ['<url><lastmod>2026-01-01</lastmod></url>', false],
    ['<url a="b"><loc>https://a.example/</loc></url>', false],
    ['<url><loc>https://a.example/&#65;</loc></url>', false],
    ['<url><loc>https://a.example/&b</loc></url>', false],
    ['<url><loc>a]]>b</loc></url>', false],
    ['<url><loc>https://a.example/</loc >', false],
    ['<url><loc>\u0000</loc></url>', false],
    ['<url><loc>\r</loc></url>', false],
    ['\r<url><loc>https://a.example/</loc></url>', false],
    ['text<url><loc>https://a.example/</loc></url>', false],
    ['<url><image:loc>https://a.example/</image:loc><loc>b</loc></url>', false],
  ])('%j: %s', (text, expected) => {
    expect(form.read(text, 0)).toBe(expected);
    if (expected) expect(form.entry.end).toBe(text.length);
  });
});

describe('the usual form of an entry', () => {
  const form = new UsualForm('https://a.example/b/');
  const url = '<url><loc>https://a.example/b/c-1.html?d=2</loc>';
  it.each<[string, string | null]>([
    [`${url}</url>`, ''],
    [
      `\n ${url}\r\n<lastmod>2026-01-01T10:00:00+01:00</lastmod> <changefreq>daily</changefreq><priority>0.5</priority></url>`,
      'lastmod 2026-01-01T10:00:00+01:00, changefreq daily, priority 0.5',
    ],
    [`${url}<priority>x</priority></url>`, 'priority x'],
    [`${url}<priority>0.5</priority><lastmod>2026</lastmod></url>`, null],
    [`${url}<lastmod> 2026</lastmod></url>`, null],
    [`${url}<lastmod></lastmod></url>`, null],
    [`${url}<image:image/></url>`, null],
    [`${url}<lastmod>2026</lastmod>`, null],
    [url, null],
    ['<url><loc>https://a.example/</loc></url>', null],
    ['<url><loc>https://a.example/b/ä</loc></url>', null],
    ['<url><loc>https://a.example/b/\u0141</loc></url>', null],
    ['<url><loc>https://a.example/b/?c&amp;d</loc></url>', null],
    ['<url><loc> https://a.example/b/</loc></url>', null],
    [`<url><loc>https://a.example/b/${'c'.repeat(2_048)}</loc></url>`, null],
    ['\r<url><loc>https://a.example/b/</loc></url>', null],
  ])('%j: %s', (text, expected) => {
    // What was laid out before is longer, and goes on where the text ends.
    form.layOut(`${text}</url>${'<priority>0.5</priority></url>'.repeat(9)}`.padEnd(4_000, '>'));
    form.layOut(text);
    expect(form.read(0)).toBe(expected !== null);
    if (expected === null) return;
    const said: string[] = [];
    form.eachField((name, value, end) => {
      said.push(`${name} ${value}`);
      expect(text.slice(0, end)).toMatch(new RegExp(`</${name}>$`));
    });
    expect(said.join(', ')).toBe(expected);
    expect(String(form.address)).toBe('https://a.example/b/c-1.html?d=2');
    expect(text.slice(0, form.addressEnd)).toMatch(/<\/loc>$/);
    expect(form.end).toBe(text.length);
  });
});
