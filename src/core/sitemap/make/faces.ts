import type { Hash } from '../set/hash.js';
import { KEPT, piecesOf, sketchOfPieces } from './sketch.js';

/** Sketches that one block of memory holds. */
const IN_BLOCK = 1_024;
/** A page without a word. */
const NONE = -1;

/** The sketches of a gathering's pages, 128 bytes for each: as strings they would be most of what a gathering of many pages holds. */
export class Faces {
  private readonly blocks: Uint32Array[] = [];
  private readonly sizes: Uint8Array[] = [];
  private count = 0;

  /** @returns by which number it is found again */
  keep(face: string | null): number {
    if (face === null) return NONE;
    const nth = this.count;
    this.count += 1;
    if (nth % IN_BLOCK === 0) {
      this.blocks.push(new Uint32Array(IN_BLOCK * KEPT));
      this.sizes.push(new Uint8Array(IN_BLOCK));
    }
    const pieces = piecesOf(face);
    const { block, size, from } = this.at(nth);
    block.set(pieces, from);
    size[nth % IN_BLOCK] = pieces.length;
    return nth;
  }

  of(nth: number): string | null {
    if (nth === NONE) return null;
    const { block, size, from } = this.at(nth);
    return sketchOfPieces(block.subarray(from, from + (size[nth % IN_BLOCK] ?? 0)));
  }

  private at(nth: number): { block: Uint32Array; size: Uint8Array; from: number } {
    const place = Math.floor(nth / IN_BLOCK);
    const [block, size] = [this.blocks[place], this.sizes[place]];
    if (!block || !size) throw new Error(`no sketch has the number ${String(nth)}`);
    return { block, size, from: (nth % IN_BLOCK) * KEPT };
  }
}

/** 53 bits of a hash, as a key of a map. */
export function keyOf({ high, low }: Hash): number {
  return (high & 0x1fffff) * 4_294_967_296 + low;
}
