import type { Hash } from './hash.js';

/** Parts of the table, by eight bits of the hash, which need not be kept. */
const PARTS = 256;
/** Places of a leaf at first and at most; a larger one is split, so that no large piece is ever made anew. */
const SMALLEST = 16;
const LARGEST = 4_096;
/** How full a leaf may be. */
const FULLEST = 0.8;

/** What a leaf held, while it is laid out anew. */
const heldLow = new Uint32Array(LARGEST);
const heldHigh = new Uint16Array(LARGEST);

/** A small table with open addressing: 48 bits of each hash. A low half of 0 marks a free place. */
class Leaf {
  private low: Uint32Array;
  private high: Uint16Array;
  count = 0;

  /** @param depth how many of the lowest bits all its hashes have alike */
  constructor(
    public size: number,
    public depth: number,
  ) {
    this.low = new Uint32Array(size);
    this.high = new Uint16Array(size);
  }

  get isFull(): boolean {
    return this.count >= this.size * FULLEST;
  }

  /** Where it is, or the free place where it would be. */
  private place(high: number, low: number): number {
    const mask = this.size - 1;
    let at = (low >>> 16) & mask;
    for (;;) {
      const there = this.low[at];
      if (there === 0 || (there === low && this.high[at] === high)) return at;
      at = (at + 1) & mask;
    }
  }

  /** @returns whether it was there already */
  add(high: number, low: number): boolean {
    const at = this.place(high, low);
    if (this.low[at] !== 0) return true;
    this.high[at] = high;
    this.low[at] = low;
    this.count += 1;
    return false;
  }

  clear(): void {
    this.low.fill(0);
    this.count = 0;
  }

  /** Makes room: by twice as many places, or by handing half of it to a leaf beside it. @returns that other leaf */
  widen(): Leaf | null {
    const { size } = this;
    heldLow.set(this.low);
    heldHigh.set(this.high);
    let beside: Leaf | null = null;
    if (size < LARGEST) {
      this.size = size * 2;
      this.low = new Uint32Array(this.size);
      this.high = new Uint16Array(this.size);
      this.count = 0;
    } else {
      this.clear();
      this.depth += 1;
      beside = new Leaf(size, this.depth);
    }
    const bit = 1 << (this.depth - 1);
    for (let at = 0; at < size; at += 1) {
      const low = heldLow[at] ?? 0;
      if (low !== 0) (beside && low & bit ? beside : this).add(heldHigh[at] ?? 0, low);
    }
    return beside;
  }
}

/** Leaves by the lowest bits of their hashes: extendible hashing, in which only the directory doubles. */
class Part {
  private directory = [new Leaf(SMALLEST, 0)];

  add(high: number, low: number): boolean {
    const leaf = this.leaf(low);
    if (!leaf.isFull) return leaf.add(high, low);
    const beside = leaf.widen();
    if (beside) this.enter(beside, low);
    return this.add(high, low);
  }

  /** Keeps its places, so that the next file need not make them anew. */
  clear(): void {
    for (const leaf of this.directory) if (leaf.count > 0) leaf.clear();
  }

  private leaf(low: number): Leaf {
    return this.directory[low & (this.directory.length - 1)] as Leaf;
  }

  /** @param low of any hash of the leaf that was split */
  private enter(beside: Leaf, low: number): void {
    if (1 << beside.depth > this.directory.length) this.directory = [...this.directory, ...this.directory];
    const step = 1 << beside.depth;
    const first = (low & ((step >>> 1) - 1)) | (step >>> 1);
    for (let at = first; at < this.directory.length; at += step) this.directory[at] = beside;
  }
}

/**
 * Addresses that were seen, as far as telling a second one goes: 56 bits of hash for each, so that a million take some 11
 * megabytes, and two that differ are taken for the same once in a thousand sets of ten million.
 */
export class HashSet56 {
  private readonly parts = Array.from({ length: PARTS }, () => new Part());
  /** How many there are. */
  size = 0;

  /** Forgets all, and keeps the room. */
  clear(): void {
    for (const part of this.parts) part.clear();
    this.size = 0;
  }

  /** @returns whether it was there already */
  add({ high, low }: Hash): boolean {
    const isThere = (this.parts[high & 255] as Part).add(high >>> 16, low || 1);
    if (!isThere) this.size += 1;
    return isThere;
  }
}
