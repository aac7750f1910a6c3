import { gunzipSync } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { finding } from '../../src/core/findings/catalogue.js';
import { isGzip } from '../../src/core/sitemap/encoding.js';
import { SitemapBytesReader } from '../../src/core/sitemap/bytes-reader.js';
import type { FileReading } from '../../src/core/sitemap/reading.js';
import { CORPUS, type File } from './sitemap-corpus.js';

const NOW = new Date('2026-11-25T08:00:00Z');

/** Reads bytes as the desk does, in pieces of some size. */
function read(
  { bytes, type, url = 'https://quay.example/sitemap.xml' }: Pick<File, 'bytes' | 'type' | 'url'>,
  piece = 4096,
): Pick<FileReading, 'kind' | 'entries' | 'findings' | 'newestLastmod' | 'extensions'> {
  let raw: Uint8Array = typeof bytes === 'string' ? Buffer.from(bytes) : bytes;
  const reader = new SitemapBytesReader(url, type ?? null, NOW);
  if (isGzip(raw))
    try {
      raw = gunzipSync(raw);
    } catch (error) {
      const findings = [finding('sitemap.gzip-broken', { url, detail: String(error) })];
      return { ...reader.end(), kind: null, entries: 0, findings };
    }
  for (let at = 0; at < raw.length; at += piece) reader.write(raw.subarray(at, at + piece));
  return reader.end();
}

describe('a corpus of sitemaps', () => {
  test.each(Object.entries(CORPUS))('%s', (_, file) => {
    const reading = read(file);
    expect(reading).toMatchObject({
      kind: file.kind,
      entries: file.entries,
      extensions: file.extensions ?? {},
    });
    expect(reading.findings.map(({ code }) => code).sort()).toEqual([...(file.finds ?? [])].sort());
    if (file.newest !== undefined) expect(reading.newestLastmod).toBe(file.newest);
    if (file.line !== undefined) expect(reading.findings[0]?.evidence['line']).toBe(file.line);
    for (const { says, remedy, grade } of reading.findings) {
      expect(says + remedy).not.toMatch(/\{\w+\}/);
      expect(remedy).toMatch(grade === 'note' ? /^$/ : /^Please /);
    }
  });
  it('has eighty files at least, and is read alike in pieces of any size', () => {
    expect(Object.keys(CORPUS).length).toBeGreaterThanOrEqual(80);
    const small = Object.values(CORPUS).filter(({ bytes }) => bytes.length < 4000);
    for (const file of small)
      for (const piece of [1, 3, 64]) {
        const whole = read(file);
        const parts = read(file, piece);
        expect([parts.kind, parts.entries, parts.findings.map(({ code }) => code)]).toEqual([
          whole.kind,
          whole.entries,
          whole.findings.map(({ code }) => code),
        ]);
      }
  });
  it('folds faults of one kind, with their count and the first few', () => {
    const lines = Array.from({ length: 500 }, (_, at) => `<url><loc>/page-${String(at)}</loc></url>`).join(
      '\n',
    );
    const { findings } = read({
      bytes: `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${lines}</urlset>`,
    });
    expect(findings).toHaveLength(1);
    expect(findings[0]?.evidence).toMatchObject({
      count: 500,
      first: '/page-0',
      line: 2,
      examples: '/page-0 · /page-1 · /page-2',
    });
  });
  it('never throws, whatever comes', () => {
    const broken = fc.tuple(
      fc.constantFrom(...Object.values(CORPUS).filter(({ bytes }) => bytes.length < 4000)),
      fc.nat(),
      fc.uint8Array({ maxLength: 12 }),
    );
    fc.assert(
      fc.property(broken, ([file, at, noise]) => {
        const raw = Buffer.from(file.bytes as string);
        const cut = at % (raw.length + 1);
        const reading = read(
          { ...file, bytes: Buffer.concat([raw.subarray(0, cut), noise, raw.subarray(cut + noise.length)]) },
          97,
        );
        expect(reading.findings.length).toBeLessThan(30);
      }),
      { numRuns: 1500 },
    );
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 2000 }), (text) => void read({ bytes: text }, 50)),
    );
  });
});
