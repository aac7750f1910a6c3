import type { Hash } from './hash.js';

/** Parts of the table, each of which grows by itself: so that growing never needs the whole of it twice. */
const PARTS = 16;
const SMALLEST = 1 << 6;
/** How full a part may be: three quarters. */
const FULLEST = 0.75;

/** A table of hashes with open addressing. */
class Part {
  private size = SMALLEST;
  private high = new Uint32Array(SMALLEST);
  private low = new Uint32Array(SMALLEST);
  count = 0;

  /** @returns whether it was there already */
  add(high: number, low: number): boolean {
    if (this.count >= this.size * FULLEST) this.grow();
    return this.put(high, low);
  }

  has(high: number, low: number): boolean {
    return this.low[this.place(high, low)] !== 0;
  }

  /** Where it is, or the free place where it would be. */
  private place(high: number, low: number): number {
    const mask = this.size - 1;
    let at = (high ^ (low >>> 7)) & mask;
    for (;;) {
      const there = this.low[at];
      if (there === 0 || (there === low && this.high[at] === high)) return at;
      at = (at + 1) & mask;
    }
  }

  private put(high: number, low: number): boolean {
    const at = this.place(high, low);
    if (this.low[at] !== 0) return true;
    this.high[at] = high;
    this.low[at] = low;
    this.count += 1;
    return false;
  }

  private grow(): void {
    const { high, low } = this;
    this.size *= 2;
    this.high = new Uint32Array(this.size);
    this.low = new Uint32Array(this.size);
    this.count = 0;
    low.forEach((value, at) => {
      if (value !== 0) this.put(high[at] ?? 0, value);
    });
  }
}

/**
 * Addresses that were seen, as far as telling a second one goes: 64 bits of hash for each, so that a million take 17
 * megabytes at most, and two that differ are taken for the same once in ten thousand files of ten million.
 */
export class Seen {
  private readonly parts = Array.from({ length: PARTS }, () => new Part());

  get size(): number {
    return this.parts.reduce((sum, { count }) => sum + count, 0);
  }

  /** @returns whether it was there already */
  add(hash: Hash): boolean {
    return this.partOf(hash).add(hash.high, hash.low);
  }

  has(hash: Hash): boolean {
    return this.partOf(hash).has(hash.high, hash.low);
  }

  private partOf({ high }: Hash): Part {
    return this.parts[high >>> 28] as Part;
  }
}
