import type { Hash } from '../set/hash.js';
import type { PageFace } from './face.js';
import { KEPT, piecesOf, sketchOfPieces } from './sketch.js';

/** Faces that one block of memory holds. */
const IN_BLOCK = 1_024;
/** Numbers that one face takes: its sketch, its two hashes, and how many pieces the sketch has with what else is yes or no. */
const STRIDE = KEPT + 3;
const SHELL = 1 << 8;
const OWN = 1 << 9;
/** No page that could be read. */
const NONE = -1;

/** The faces of a gathering's pages, 140 bytes for each: as strings they would be most of what a gathering of many pages holds. */
export class Faces {
  private readonly blocks: Uint32Array[] = [];
  private count = 0;

  /** @returns by which number it is found again */
  keep(face: PageFace | null): number {
    if (face === null) return NONE;
    const nth = this.count;
    this.count += 1;
    if (nth % IN_BLOCK === 0) this.blocks.push(new Uint32Array(IN_BLOCK * STRIDE));
    const pieces = face.sketch === null ? [] : piecesOf(face.sketch);
    const { block, from } = this.at(nth);
    block.set(pieces, from);
    const flags = pieces.length | (face.isShell ? SHELL : 0) | (face.isOwn ? OWN : 0);
    block.set([face.text, face.name, flags], from + KEPT);
    return nth;
  }

  of(nth: number): PageFace | null {
    if (nth === NONE) return null;
    const { block, from } = this.at(nth);
    const [text = 0, name = 0, flags = 0] = block.subarray(from + KEPT, from + STRIDE);
    const size = flags & 0xff;
    return {
      sketch: size === 0 ? null : sketchOfPieces(block.subarray(from, from + size)),
      text,
      name,
      isShell: (flags & SHELL) !== 0,
      isOwn: (flags & OWN) !== 0,
    };
  }

  private at(nth: number): { block: Uint32Array; from: number } {
    const block = this.blocks[Math.floor(nth / IN_BLOCK)];
    if (!block) throw new Error(`no face has the number ${String(nth)}`);
    return { block, from: (nth % IN_BLOCK) * STRIDE };
  }
}

/** 53 bits of a hash, as a key of a map. */
export function keyOf({ high, low }: Hash): number {
  return (high & 0x1fffff) * 4_294_967_296 + low;
}
