/** Places in the table for one address: half of them stay free, so that looking is short. */
const ROOM = 2;

/**
 * The addresses of a file, as far as telling a second one goes: 64 bits of hash for each, so that 50,000 take a megabyte
 * and two that differ are taken for the same once in a billion files.
 */
export class Seen {
  private size = 1 << 10;
  private high = new Uint32Array(this.size);
  private low = new Uint32Array(this.size);
  private count = 0;

  /** @returns whether it was there already */
  add(address: string): boolean {
    if (this.count * ROOM >= this.size) this.grow();
    let high = 0x811c9dc5;
    let low = 0x1b873593;
    for (let at = 0; at < address.length; at += 1) {
      const sign = address.charCodeAt(at);
      high = Math.imul(high ^ sign, 0x01000193);
      low = Math.imul(low ^ sign, 0x85ebca6b) + high;
    }
    return this.put(high >>> 0, (low | 1) >>> 0);
  }

  /** @param low never 0, which marks a free place */
  private put(high: number, low: number): boolean {
    const mask = this.size - 1;
    let at = (high ^ (low >>> 7)) & mask;
    for (;;) {
      const there = this.low[at];
      if (there === 0) break;
      if (there === low && this.high[at] === high) return true;
      at = (at + 1) & mask;
    }
    this.high[at] = high;
    this.low[at] = low;
    this.count += 1;
    return false;
  }

  private grow(): void {
    const { high, low } = this;
    this.size *= 4;
    this.high = new Uint32Array(this.size);
    this.low = new Uint32Array(this.size);
    this.count = 0;
    low.forEach((value, at) => {
      if (value !== 0) this.put(high[at] ?? 0, value);
    });
  }
}
