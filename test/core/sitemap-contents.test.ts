import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faultWords, FAULT_WORDS } from '../../src/core/sitemap/contents/fault-words.js';
import { FolderTree } from '../../src/core/sitemap/contents/folders.js';
import { Listing } from '../../src/core/sitemap/read/listing.js';
import { NAMESPACE } from '../../src/core/sitemap/read/limits.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';

const NOW = new Date('2026-11-25T00:00:00Z');
const URL_ = 'https://quay.example/sitemap.xml';

function listed(text: string, { step = 7, parserAlone = false } = {}) {
  const listing = new Listing();
  const reader = new SitemapReader(URL_, NOW, { listing }, parserAlone);
  for (let at = 0; at < text.length; at += step) reader.write(text.slice(at, at + step));
  reader.end();
  return listing.columns();
}

const urlset = (inner: string) => `<urlset xmlns="${NAMESPACE}">\n${inner}</urlset>`;

describe('the entries of a file, one by one', () => {
  it('have what was said and found of each, whatever the order in which it is written', () => {
    const text = urlset(`<url><loc>https://quay.example/a</loc><lastmod>2026-10-01</lastmod></url>
<url><lastmod>2026-10-01</lastmod><loc>https://quay.example/b</loc><priority>7</priority></url>
<url><loc>https://quay.example/a</loc></url>
<url><loc>http://quay.example/c</loc><lastmod>yesterday</lastmod></url>
<url><lastmod>2026-09-09</lastmod></url>
<url><loc><![CDATA[https://quay.example/d]]></loc><lastmod>2026-10-02</lastmod></url>
`);
    const wanted = {
      addresses: [
        'https://quay.example/a',
        'https://quay.example/b',
        'https://quay.example/a',
        'http://quay.example/c',
        'https://quay.example/d',
      ],
      lines: [2, 3, 4, 5, 7],
      dates: ['2026-10-01', '2026-10-01', null, 'yesterday', '2026-10-02'],
      faults: [null, 'sitemap.bad-priority', 'sitemap.twice', 'sitemap.other-scheme sitemap.bad-date', null],
    };
    expect(listed(text)).toEqual(wanted);
    expect(listed(text, { parserAlone: true })).toEqual(wanted);
    expect(listed(text, { step: 10_000 })).toEqual(wanted);
  });

  it('are those of feeds and of plain text too', () => {
    const rss = `<rss version="2.0"><channel><title>x</title><item><pubDate>Wed, 25 Nov 2026 06:00:00 +0100</pubDate><link>https://quay.example/a</link></item></channel></rss>`;
    expect(listed(rss)).toMatchObject({
      addresses: ['https://quay.example/a'],
      dates: ['Wed, 25 Nov 2026 06:00:00 +0100'],
    });
    expect(listed('https://quay.example/a\n\n/b\n')).toMatchObject({
      addresses: ['https://quay.example/a', '/b'],
      lines: [1, 3],
      faults: [null, 'sitemap.relative'],
    });
  });

  it('are as many as were counted, each with one of everything', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.webPath(), fc.boolean(), fc.boolean()), { maxLength: 40 }),
        (entries) => {
          const text = urlset(
            entries
              .map(([path, isDated, isOdd]) => {
                const loc = `<loc>https://quay.example${path.replaceAll('&', '&amp;')}</loc>`;
                const date = isDated ? '<lastmod>2026-10-01</lastmod>' : '';
                return `<url>${isOdd ? `<!-- -->${date}${loc}` : loc + date}</url>`;
              })
              .join('\n'),
          );
          const { addresses, lines, dates, faults } = listed(text, { step: 31 });
          expect([lines.length, dates.length, faults.length]).toEqual(Array(3).fill(addresses.length));
          expect(addresses).toEqual(entries.map(([path]) => `https://quay.example${path}`));
          expect(dates).toEqual(entries.map(([, isDated]) => (isDated ? '2026-10-01' : null)));
        },
      ),
      { numRuns: 100 },
    );
  });

  it('have a word for each fault that an entry can have', () => {
    for (const code of Object.keys(FAULT_WORDS)) expect(faultWords(code)).not.toContain('sitemap.');
  });
});

describe('the folders of a sitemap', () => {
  it('stand in order, with what is in them and below', () => {
    const tree = new FolderTree();
    const one = tree.add('https://quay.example/tides/north/a');
    expect(tree.add('https://quay.example/tides/north/b?x=/y/')).toBe(one);
    tree.add('https://quay.example/tides/');
    tree.add('https://quay.example/about#/no/');
    tree.add('no address');
    const [host, tides, north, none] = tree.folders();
    expect(host).toMatchObject({ path: 'https://quay.example/', own: 1, total: 4, place: 0, last: 2 });
    expect(tides).toMatchObject({ path: 'https://quay.example/tides/', own: 1, total: 3, last: 2 });
    expect(north).toMatchObject({ own: 2, total: 2, place: 2, last: 2, depth: 2 });
    expect(none).toMatchObject({ path: '', own: 1 });
  });

  it('count each address once, whatever is written', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.webUrl(), fc.string()), { maxLength: 60 }), (addresses) => {
        const tree = new FolderTree();
        for (const one of addresses) tree.add(one);
        const folders = tree.folders();
        expect(folders.reduce((sum, { own }) => sum + own, 0)).toBe(addresses.length);
        expect(folders.filter(({ depth }) => depth === 0).reduce((sum, { total }) => sum + total, 0)).toBe(
          addresses.length,
        );
        folders.forEach(({ place }, at) => {
          expect(place).toBe(at);
        });
      }),
    );
  });

  it('are bounded in number and depth, and none is lost', () => {
    const tree = new FolderTree();
    for (let at = 0; at < 120_000; at += 1) tree.add(`https://quay.example/${String(at)}/page`);
    tree.add(`https://quay.example/0${'/deeper'.repeat(500)}/page`);
    const folders = tree.folders();
    expect(folders.length).toBeLessThanOrEqual(100_000);
    expect(Math.max(...folders.map(({ depth }) => depth))).toBeLessThanOrEqual(12);
    expect(folders[0]?.total).toBe(120_001);
  });
});
