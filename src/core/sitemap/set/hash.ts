const FIRST_HIGH = 0x811c9dc5;
const FIRST_LOW = 0x1b873593;

/** 64 bits of hash of an address, in two halves. One object is used again and again, since files have many addresses. */
export class Hash {
  high = 0;
  low = 0;

  of(address: string): this {
    let high = FIRST_HIGH;
    let low = FIRST_LOW;
    const { length } = address;
    // Two letters at a step; what is left of one beyond the end is 0.
    for (let at = 0; at < length; at += 2) {
      const signs = address.charCodeAt(at) | (at + 1 < length ? address.charCodeAt(at + 1) << 16 : 0);
      high = Math.imul(high ^ signs, 0x85ebca6b);
      high = (high << 13) | (high >>> 19);
      low = Math.imul(low + signs, 0xc2b2ae35);
      low = (low << 17) | (low >>> 15);
    }
    return this.settle(high, low, length);
  }

  /** The same of an address that is there as numbers: units of UTF-16, from one to before another. */
  ofUnits(units: Uint16Array, from: number, to: number): this {
    let high = FIRST_HIGH;
    let low = FIRST_LOW;
    for (let at = from; at < to; at += 2) {
      const signs = (units[at] as number) | (at + 1 < to ? (units[at + 1] as number) << 16 : 0);
      high = Math.imul(high ^ signs, 0x85ebca6b);
      high = (high << 13) | (high >>> 19);
      low = Math.imul(low + signs, 0xc2b2ae35);
      low = (low << 17) | (low >>> 15);
    }
    return this.settle(high, low, to - from);
  }

  private settle(high: number, low: number, length: number): this {
    this.high = stirred(high ^ length);
    this.low = stirred(low ^ high);
    return this;
  }
}

/** Stirs 32 bits, so that any few of them may be used by themselves. */
export function stirred(bits: number): number {
  let one = bits;
  one = Math.imul(one ^ (one >>> 16), 0x7feb352d);
  one = Math.imul(one ^ (one >>> 15), 0x846ca68b);
  return (one ^ (one >>> 16)) >>> 0;
}
