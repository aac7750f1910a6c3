/** Pieces of a page's words that its sketch keeps. */
export const KEPT = 32;
/** How many of the least pieces of both two pages must share to count as the same: a date or a counter may differ. */
const ALIKE = 0.8;

/**
 * A compact sketch of a page's words, by which it is known again: of the hashes of all pieces of three words the 32 least (bottom-k
 * sketch). One pass, whatever the page; cheaper than drawing anew for each (`variants/fingerprint`), since every page of a website has one.
 * @param words as hashes, in their order
 * @returns up to 32 eight-digit hex numbers in order, in one text; null for a page without a word
 */
export function sketchOf(words: ArrayLike<number>): string | null {
  // In order, so that the greatest is the last: of most pieces one comparison tells that they are not among the least.
  const least = new Uint32Array(KEPT);
  let count = 0;
  let before = 0;
  let last = 0;
  // By number, as of all that is done for each word of a website: an iterator costs five times as much.
  for (let nth = 0; nth < words.length; nth += 1) {
    const own = words[nth] as number;
    const piece = stir(Math.imul(before, 0x9e3779b1) ^ Math.imul(last, 0x85ebca6b) ^ own);
    before = last;
    last = own;
    if (count === KEPT && piece >= (least[KEPT - 1] as number)) continue;
    let at = count;
    while (at > 0 && (least[at - 1] as number) > piece) at -= 1;
    if (at > 0 && least[at - 1] === piece) continue;
    if (count < KEPT) count += 1;
    for (let to = count - 1; to > at; to -= 1) least[to] = least[to - 1] as number;
    least[at] = piece;
  }
  return count === 0 ? null : sketchOfPieces(least.subarray(0, count));
}

/** A sketch of its pieces, which are in order. */
export function sketchOfPieces(pieces: Iterable<number>): string {
  let sketch = '';
  for (const piece of pieces)
    sketch += `${HEX[piece >>> 24] as string}${HEX[(piece >>> 16) & 0xff] as string}${HEX[(piece >>> 8) & 0xff] as string}${HEX[piece & 0xff] as string}`;
  return sketch;
}

/** The two digits of each byte. */
const HEX = Array.from({ length: 0x100 }, (_, byte) => byte.toString(16).padStart(2, '0'));

/** The pieces of a sketch, in order. */
export function piecesOf(sketch: string): number[] {
  return (sketch.match(/.{8}/gu) ?? []).map((piece) => Number.parseInt(piece, 16));
}

/** Whether two pages show the same, by their sketches. A page without words is like no other. */
export function isSameSketch(a: string | null, b: string | null): boolean {
  if (a === null || b === null) return false;
  if (a === b) return true;
  const [one, other] = [new Set(piecesOf(a)), new Set(piecesOf(b))];
  const both = [...new Set([...one, ...other])].sort((x, y) => x - y).slice(0, KEPT);
  const shared = both.filter((piece) => one.has(piece) && other.has(piece)).length;
  return shared / both.length >= ALIKE;
}

function stir(value: number): number {
  let mixed = Math.imul(value ^ (value >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return (mixed ^ (mixed >>> 16)) >>> 0;
}
