import { hashOf } from './face.js';
import { piecesOf } from './sketch.js';

/** Shapes of addresses that are known by a hash, and that are told apart, and pieces of words that are kept: of one shape, and of all. */
const MOST_ONCE = 200_000;
const MOST_SHAPES = 5_000;
const MOST_OF_SHAPE = 20_000;
const MOST_PIECES = 400_000;
/** A shape has pages of its own to show once so many of those that were read had something. */
const RICH_FROM = 3;

interface Met {
  readonly pieces: Set<number>;
  read: number;
  own: number;
}

/**
 * Tells rows of addresses that go on without anything of their own, as the empty months of a calendar do, from lists that are long. A page
 * has something of its own if it shows words, other than those of a calendar, or images that no page of its shape has shown before, or if
 * it leads to such pages of another shape.
 */
export class Rows {
  private readonly shapes = new Map<string, Met>();
  /** Shapes that were met once, by a hash: most addresses are like no other. */
  private readonly once = new Set<number>();
  private kept = 0;

  /**
   * Learns what a page shows.
   * @param plain the sketch of its words without those and the numbers of a calendar
   * @returns whether it has anything of its own
   */
  learn(shape: string, plain: string | null): boolean {
    const met = this.met(shape);
    if (met === null) return true;
    const isFull = met.pieces.size >= MOST_OF_SHAPE || this.kept >= MOST_PIECES;
    let isOwn = false;
    for (const piece of plain === null ? [] : piecesOf(plain)) {
      if (met.pieces.has(piece)) continue;
      isOwn = true;
      if (isFull) break;
      met.pieces.add(piece);
      this.kept += 1;
    }
    met.read += 1;
    if (isOwn) met.own += 1;
    return isOwn;
  }

  /** What is known of a shape, from its second address on; null where nothing is kept of it. */
  private met(shape: string): Met | null {
    const known = this.shapes.get(shape);
    if (known) return known;
    const key = hashOf([shape]);
    if (!this.once.has(key)) {
      if (this.once.size < MOST_ONCE) this.once.add(key);
      return null;
    }
    if (this.shapes.size >= MOST_SHAPES) return null;
    const made = { pieces: new Set<number>(), read: 0, own: 0 };
    this.shapes.set(shape, made);
    return made;
  }

  /** Whether pages of a shape have mostly something of their own, as far as they were read. */
  isRich(shape: string): boolean {
    const met = this.shapes.get(shape);
    return met !== undefined && met.own >= RICH_FROM && met.own * 2 >= met.read;
  }

  /** Whether hundreds of a shape were read, and hardly one had anything of its own. */
  isPoor(shape: string, atLeast: number): boolean {
    const met = this.shapes.get(shape);
    return met !== undefined && met.read >= atLeast && met.own * 10 <= met.read;
  }
}
