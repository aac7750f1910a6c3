import { gunzipSync, gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CATALOGUE, type FindingCode } from '../../src/core/findings/catalogue.js';
import { SitemapBytesReader } from '../../src/core/sitemap/bytes-reader.js';
import { isGzip } from '../../src/core/sitemap/encoding.js';
import { stateOf } from '../../src/core/sitemap/reading.js';
import { CORPUS } from '../core/sitemap-corpus.js';

const NOW = new Date('2026-11-25T08:00:00Z');
/** How long it goes on, in milliseconds; FUZZ_MS for longer. */
const LONG = Number(process.env['FUZZ_MS'] ?? 15_000);

/** Pieces that sitemaps are made of, and that break them. */
const SIGNS = [
  '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">',
  '<sitemapindex>',
  '</urlset>',
  '<url><loc>https://quay.example/a</loc></url>',
  '<loc>',
  '</loc>',
  '<lastmod>9999-99-99</lastmod>',
  '<![CDATA[',
  ']]>',
  '<!--',
  '-->',
  '<?xml version="1.0" encoding="utf-16"?>',
  '<!DOCTYPE x [<!ENTITY a "&b;">]>',
  '&a;',
  '&constructor;',
  '<constructor>',
  '<!-- -->',
  '&#x0;',
  '&',
  '\u0000',
  '\ufeff',
  '\ud800',
  'https://[::1',
  '<rss><channel><item><link>',
  '<feed xmlns="http://www.w3.org/2005/Atom"><entry><link href="',
];

const small = Object.values(CORPUS)
  .filter(({ bytes }) => bytes.length < 4000)
  .map(({ bytes }) => Buffer.from(bytes as string));

const file = fc.oneof(
  // A good or bad file with noise in it.
  fc
    .tuple(fc.constantFrom(...small), fc.nat(), fc.uint8Array({ maxLength: 40 }), fc.nat(30))
    .map(([raw, at, noise, cut]) => {
      const from = at % (raw.length + 1);
      return Buffer.concat([raw.subarray(0, from), noise, raw.subarray(from + cut)]);
    }),
  // Pieces of markup in no order.
  fc.array(fc.constantFrom(...SIGNS), { maxLength: 60 }).map((signs) => Buffer.from(signs.join(''))),
  fc.uint8Array({ maxLength: 3000 }).map((raw) => Buffer.from(raw)),
  // Packed, and broken after.
  fc.tuple(fc.constantFrom(...small), fc.nat()).map(([raw, at]) => {
    const packed = gzipSync(raw);
    packed[at % packed.length] = at % 251;
    return packed;
  }),
);

it('whatever comes for a while, the reader says something and goes on', () => {
  let files = 0;
  fc.assert(
    fc.property(file, fc.integer({ min: 1, max: 700 }), (bytes, piece) => {
      let raw: Uint8Array = bytes;
      if (isGzip(raw))
        try {
          raw = gunzipSync(raw);
        } catch {
          return;
        }
      const reader = new SitemapBytesReader('https://quay.example/sitemap.xml', null, NOW);
      for (let at = 0; at < raw.length && !reader.finished; at += piece)
        reader.write(raw.subarray(at, at + piece));
      const reading = reader.end();
      files += 1;
      expect(reading.findings.length).toBeLessThan(40);
      expect(['clean', 'flawed']).toContain(stateOf(reading));
      for (const { code, says, evidence } of reading.findings) {
        // What is quoted of the file may itself look like a place to fill in.
        for (const [, name = ''] of CATALOGUE[code as FindingCode].says.matchAll(/\{(\w+)\}/g))
          expect(evidence).toHaveProperty(name);
        expect(says.length).toBeLessThan(2_000);
      }
    }),
    { numRuns: Number.MAX_SAFE_INTEGER, interruptAfterTimeLimit: LONG, markInterruptAsFailure: false },
  );
  expect(files).toBeGreaterThan(1_000);
});
