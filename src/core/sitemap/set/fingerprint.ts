import { stirred, type Hash } from './hash.js';

/** How many, and two sums. */
export type PrintSums = readonly [number, number, number];

/**
 * A fingerprint of a set of addresses that does not depend on their order: two readings with the same one have the same
 * addresses. Sums of stirred hashes, 96 bits with the count.
 */
export class Fingerprint {
  private count = 0;
  private first = 0;
  private second = 0;

  /** Each address once. */
  add({ high, low }: Hash): void {
    this.count += 1;
    this.first = (this.first + high) >>> 0;
    this.second = (this.second + stirred(low ^ high)) >>> 0;
  }

  /** What it comes to so far. */
  get sums(): PrintSums {
    return [this.count, this.first, this.second];
  }

  /** The fingerprint that comes of sums. */
  static of([count, first, second]: PrintSums): string {
    const print = new Fingerprint();
    Object.assign(print, { count, first, second });
    return print.toString();
  }

  /** 24 hexadecimal digits. */
  toString(): string {
    return [this.count, this.first, this.second].map((part) => part.toString(16).padStart(8, '0')).join('');
  }
}
