import type { Hash } from './hash.js';

/** How full the table may be at the most. */
const FULLEST = 0.7;
/** Before the table: how many are in it. */
const HEAD_BYTES = 8;
const SLOT_BYTES = 6;

/**
 * Addresses that several threads have seen, as far as telling a second one goes: 48 bits of hash for each, beside those by which its
 * place is found. The memory is one for all of them and never made anew, so that it is as large from the beginning as it has to be.
 */
export class SharedSeen {
  private readonly count: Int32Array;
  private readonly low: Int32Array;
  private readonly high: Int16Array;
  private readonly mask: number;

  /** The memory for so many addresses at the most. */
  static memoryFor(most: number): SharedArrayBuffer {
    const slots = 2 ** Math.ceil(Math.log2(Math.max(16, most / FULLEST)));
    return new SharedArrayBuffer(HEAD_BYTES + slots * SLOT_BYTES);
  }

  /** @param memory what `memoryFor` made, whole or partly filled */
  constructor(memory: SharedArrayBuffer) {
    const slots = (memory.byteLength - HEAD_BYTES) / SLOT_BYTES;
    this.count = new Int32Array(memory, 0, 1);
    this.low = new Int32Array(memory, HEAD_BYTES, slots);
    this.high = new Int16Array(memory, HEAD_BYTES + slots * 4, slots);
    this.mask = slots - 1;
  }

  /** How many there are. */
  get size(): number {
    return Atomics.load(this.count, 0);
  }

  /** Nobody may add more than the memory was made for. @returns whether it was there already */
  add(hash: Hash): boolean {
    const { low, high, mask } = this;
    const wanted = hash.low | 0 || 1;
    const rest = restOf(hash);
    for (let at = (hash.high >>> 9) & mask; ; at = (at + 1) & mask) {
      const there = Atomics.compareExchange(low, at, 0, wanted);
      if (there === 0) {
        Atomics.store(high, at, rest);
        Atomics.add(this.count, 0, 1);
        return false;
      }
      if (there === wanted && this.restAt(at) === rest) return true;
    }
  }

  has(hash: Hash): boolean {
    const { low, mask } = this;
    const wanted = hash.low | 0 || 1;
    const rest = restOf(hash);
    for (let at = (hash.high >>> 9) & mask; ; at = (at + 1) & mask) {
      const there = Atomics.load(low, at);
      if (there === 0) return false;
      if (there === wanted && this.restAt(at) === rest) return true;
    }
  }

  /** Whoever takes a place says the rest a moment later; until then it is 0. */
  private restAt(at: number): number {
    for (;;) {
      const rest = Atomics.load(this.high, at);
      if (rest !== 0) return rest;
    }
  }
}

function restOf({ high }: Hash): number {
  return ((high & 0xffff) << 16) >> 16 || 1;
}
