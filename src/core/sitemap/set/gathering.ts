import { chunksOf, inOneLine, type Chunk } from './chunks.js';

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

  /** All of them, in order and cut into chunks, and none any more. */
  cut(): Generator<Chunk> {
    return chunksOf(this.sorted());
  }

  private sorted(): string[] {
    const all = [...this.packed.splice(0).flatMap((some) => some.toString().split('\n')), ...this.loose];
    this.loose = [];
    return all.sort();
  }
}
