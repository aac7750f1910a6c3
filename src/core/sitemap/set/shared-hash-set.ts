import type { Hash } from './hash.js';

/** How full the table may be at the most. Only where every file is full does it come to that, and some fifty places are looked at for each. */
const FULLEST = 0.9;
const HIGHEST = 2 ** 32;

/**
 * Addresses of the many files of an index, as far as telling a second one goes: 40 bits of hash for each, beside those by which its place
 * is found, in five bytes. The table is as large from the beginning as it may have to be: one that grows needs twice its memory
 * while it does.
 */
export class SharedHashSet {
  private readonly low: Uint32Array;
  private readonly rest: Uint8Array;
  private readonly slots: number;
  /** How many there are. */
  size = 0;

  /** @param most how many there may be; of more it says only whether they are there */
  constructor(private readonly most: number) {
    this.slots = Math.ceil(Math.max(16, most) / FULLEST);
    this.low = new Uint32Array(this.slots);
    this.rest = new Uint8Array(this.slots);
  }

  get isFull(): boolean {
    return this.size >= this.most;
  }

  /** Adds an address as long as there is room. @returns whether it was there already */
  add(hash: Hash): boolean {
    const { low, rest, slots } = this;
    const wanted = hash.low || 1;
    const tail = hash.high & 0xff;
    let at = Math.floor((hash.high / HIGHEST) * slots);
    for (;;) {
      const there = low[at];
      if (there === wanted && rest[at] === tail) return true;
      if (there === 0) break;
      at += 1;
      if (at === slots) at = 0;
    }
    if (this.isFull) return false;
    low[at] = wanted;
    rest[at] = tail;
    this.size += 1;
    return false;
  }
}
