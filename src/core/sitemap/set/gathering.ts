import { chunksOf, inOneLine } from './chunks.js';

/** How many addresses are put together at a time. */
const AT_ONCE = 1_024;

/**
 * The addresses of one file, each in as many bytes as it has letters: a string cut from a larger text keeps the whole of
 * it in memory.
 */
export class Gathering {
  private readonly packed: Buffer[] = [];
  private loose: string[] = [];

  push(address: string): void {
    this.loose.push(inOneLine(address));
    if (this.loose.length < AT_ONCE) return;
    this.packed.push(Buffer.from(this.loose.join('\n')));
    this.loose = [];
  }

  /**
   * All of them, cut into chunks at one go, and none any more: strings that are waited with grow old, and old ones are long kept
   * after they are needed.
   */
  cut(): { count: number; texts: Uint8Array<ArrayBuffer>[] } {
    const sorted = this.sorted();
    const encoder = new TextEncoder();
    return { count: sorted.length, texts: Array.from(chunksOf(sorted), ({ text }) => encoder.encode(text)) };
  }

  private sorted(): string[] {
    const all = [...this.packed.splice(0).flatMap((some) => some.toString().split('\n')), ...this.loose];
    this.loose = [];
    return all.sort();
  }
}
