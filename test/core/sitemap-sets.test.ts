import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addressesIn, chunksOf, inOneLine } from '../../src/core/sitemap/set/chunks.js';
import { differenceOf, type KeptSet } from '../../src/core/sitemap/set/difference.js';
import { Fingerprint } from '../../src/core/sitemap/set/fingerprint.js';
import { Hash } from '../../src/core/sitemap/set/hash.js';
import { Sampler } from '../../src/core/sitemap/set/sampler.js';
import { HashSet56 } from '../../src/core/sitemap/set/hash-set.js';
import { SharedHashSet } from '../../src/core/sitemap/set/shared-hash-set.js';

const hash = new Hash();
const page = (at: number) => `https://quay.example/berths/page-${String(at)}`;
const pages = (count: number, from = 0) => Array.from({ length: count }, (_, at) => page(from + at));
const urls = fc.uniqueArray(fc.webUrl({ withQueryParameters: true }), { maxLength: 300 });

function kept(...files: (readonly string[])[]): KeptSet {
  const texts = new Map<string, string>();
  for (const file of files) for (const { text } of chunksOf([...file].sort())) texts.set(text, text);
  return {
    chunks: [...texts.keys()],
    open: (chunk) => Promise.resolve(addressesIn(texts.get(chunk) ?? '')),
  };
}

describe('addresses that were seen', () => {
  it('tells a second one of any address, and takes no two for one', () => {
    fc.assert(
      fc.property(urls, (some) => {
        const seen = new HashSet56();
        expect(some.map((url) => seen.add(hash.of(url)))).toEqual(some.map(() => false));
        expect(some.map((url) => seen.add(hash.of(url)))).toEqual(some.map(() => true));
        expect(seen.size).toBe(some.length);
      }),
      { numRuns: 30 },
    );
    const seen = new HashSet56();
    expect(pages(300_000).filter((url) => seen.add(hash.of(url)))).toEqual([]);
    expect(seen.add(hash.of(page(7)))).toBe(true);
    expect(seen.add(hash.of(page(300_001)))).toBe(false);
  });
});

describe('addresses of the many files of an index', () => {
  it('are told apart as in the table of one file, up to as many as there is room for', () => {
    const all = pages(60_000);
    const seen = new SharedHashSet(all.length);
    expect(all.filter((url) => seen.add(hash.of(url)))).toEqual([]);
    expect(seen.isFull).toBe(true);
    expect(all.every((url) => seen.add(hash.of(url)))).toBe(true);
    const more = pages(60_000, 60_000);
    expect(more.filter((url) => seen.add(hash.of(url)))).toEqual([]);
    expect(more.filter((url) => seen.add(hash.of(url)))).toEqual([]);
    expect(seen.size).toBe(all.length);
  });

  it('have a place at the end of the table too, and none where there is room for nothing', () => {
    const last = Object.assign(new Hash(), { high: 2 ** 32 - 1, low: 7 });
    const seen = new SharedHashSet(3);
    expect([last, { ...last, low: 8 } as Hash, last].map((one) => seen.add(one))).toEqual([
      false,
      false,
      true,
    ]);
    const none = new SharedHashSet(0);
    expect([none.add(last), none.add(last), none.size]).toEqual([false, false, 0]);
  });
});

describe('the hash of an address', () => {
  it('is the same whether it comes as a text or as numbers', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), fc.nat(9), (text, before) => {
        const units = Uint16Array.from(
          { length: before + text.length },
          (_, at) => text.charCodeAt(at - before) || 0,
        );
        const { high, low } = new Hash().of(text);
        expect({ ...hash.ofUnits(units, before, before + text.length) }).toEqual({ high, low });
      }),
    );
  });
});

describe('the fingerprint of a set', () => {
  const of = (some: readonly string[]) => {
    const print = new Fingerprint();
    for (const one of some) print.add(hash.of(one));
    return print.toString();
  };
  it('is the same in any order, and another for any other set', () => {
    const some = pages(500);
    expect(of(some)).toBe(of([...some].reverse()));
    expect(of(some)).toMatch(/^[0-9a-f]{24}$/);
    const others = some.map((_, at) => of([...some.slice(0, at), page(9_000 + at), ...some.slice(at + 1)]));
    expect(new Set([of(some), ...others]).size).toBe(501);
  });

  it('comes of its sums, which cross from one thread to another', () => {
    const print = new Fingerprint();
    for (const one of pages(500)) print.add(hash.of(one));
    expect(Fingerprint.of(print.sums)).toBe(of(pages(500)));
  });
});

describe('chunks', () => {
  it('hold what was put into them', () => {
    fc.assert(
      fc.property(urls, (some) => {
        const sorted = [...some].sort();
        expect([...chunksOf(sorted)].flatMap(({ text }) => addressesIn(text))).toEqual(sorted);
      }),
    );
    expect(inOneLine('https://quay.example/a\r\nb')).toBe('https://quay.example/a b');
  });
  it('stay as they were but where something came or went', () => {
    const before = [...chunksOf(pages(20_000).sort())];
    const after = [...chunksOf([...pages(20_000).filter((_, at) => at !== 777), page(99_999)].sort())];
    const known = new Set(before.map(({ text }) => text));
    expect(before.length).toBeGreaterThan(8);
    expect(after.filter(({ text }) => !known.has(text)).length).toBeLessThanOrEqual(3);
    expect(Math.max(...before.map(({ count }) => count))).toBeLessThanOrEqual(4_096);
  });
});

describe('the difference of two sets', () => {
  it('is what came and what went', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.nat(2_000)), fc.array(fc.nat(2_000)), async (one, other) => {
        const a = [...new Set(one)].map(page);
        const b = [...new Set(other)].map(page);
        const found = await differenceOf(kept(a), kept(b), 10_000);
        expect(found.addedFirst).toEqual(b.filter((url) => !a.includes(url)).sort());
        expect(found.removedFirst).toEqual(a.filter((url) => !b.includes(url)).sort());
      }),
      { numRuns: 60 },
    );
  });
  it('takes nothing for new that another file had, and names no more than is asked for', async () => {
    const found = await differenceOf(kept(pages(5_000), [page(1)]), kept(pages(6_000), [page(2)]), 7);
    expect(found).toMatchObject({ added: 1_000, removed: 0, removedFirst: [] });
    expect(found.addedFirst).toHaveLength(7);
  });
  it('opens nothing where all is the same', async () => {
    const same = kept(pages(3_000));
    const closed = { ...same, open: () => Promise.reject(new Error('opened')) };
    expect(await differenceOf(closed, closed, 5)).toMatchObject({ added: 0, removed: 0 });
  });
});

describe('a sample', () => {
  const pick = (wanted: number, seed: number, count = 40_000) => {
    const sampler = new Sampler(wanted, seed);
    pages(count).forEach((url, at) => {
      sampler.offer(hash.of(url), url, 0, at);
    });
    return sampler.picked();
  };
  it('is the same for a seed, and another for another', () => {
    expect(pick(50, 3)).toEqual(pick(50, 3));
    expect(pick(50, 3)).not.toEqual(pick(50, 4));
    expect(new Set(pick(50, 3)).size).toBe(50);
  });
  it('is spread over the file', () => {
    const places = pick(50, 1).map((url) => Number(url.slice(page(0).length - 1)));
    expect(places).toEqual([...places].sort((a, b) => a - b));
    const inTenths = new Set(places.map((at) => Math.floor(at / 4_000)));
    expect(inTenths.size).toBe(10);
  });
  it('is all of a small file, and nothing where none is wanted', () => {
    expect(pick(50, 1, 7)).toEqual(pages(7));
    expect(pick(0, 1)).toEqual([]);
  });
});
