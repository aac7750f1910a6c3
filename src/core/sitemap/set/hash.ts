/** 64 bits of hash of an address, in two halves. One object is used again and again, since files have many addresses. */
export class Hash {
  high = 0;
  low = 0;

  of(address: string): this {
    let high = 0x811c9dc5;
    let low = 0x1b873593;
    for (let at = 0; at < address.length; at += 1) {
      const sign = address.charCodeAt(at);
      high = Math.imul(high ^ sign, 0x01000193);
      low = Math.imul(low ^ sign, 0x85ebca6b) + high;
    }
    this.high = high >>> 0;
    this.low = low >>> 0;
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
