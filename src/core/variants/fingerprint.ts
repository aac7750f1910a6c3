import { fnv1a } from '../text/fnv.js';

/** How many independent draws a fingerprint has: its likeness is right to about a tenth. */
const DRAWS = 32;
/** Draws that must agree for two pages to count as the same thing: a date or a counter may differ. */
const ALIKE = 26;
/** Words that go into one piece; the order of words counts by that. */
const PIECE = 3;

/**
 * A compact fingerprint of a page's visible words, by which two variants are seen to serve the same thing: the least
 * hash of all pieces of three words, drawn anew 32 times (min-wise hashing).
 * @returns 32 four-digit hex numbers in one text; null for a page without a word, which is like no other
 */
export function fingerprint(words: readonly string[]): string | null {
  if (words.length === 0) return null;
  const least = new Uint32Array(DRAWS).fill(0xffffffff);
  for (let at = 0; at < Math.max(1, words.length - PIECE + 1); at += 1) {
    const base = fnv1a(words.slice(at, at + PIECE).join(' '));
    for (let draw = 0; draw < DRAWS; draw += 1) {
      const value = scramble(base ^ Math.imul(draw + 1, 0x9e3779b1));
      if (value < (least[draw] ?? 0)) least[draw] = value;
    }
  }
  return [...least].map((value) => (value & 0xffff).toString(16).padStart(4, '0')).join('');
}

/** Whether two pages serve the same thing, by their fingerprints. */
export function isSameThing(a: string | null, b: string | null): boolean {
  if (a === null || b === null) return false;
  let agreeing = 0;
  for (let at = 0; at < DRAWS * 4; at += 4) if (a.slice(at, at + 4) === b.slice(at, at + 4)) agreeing += 1;
  return agreeing >= ALIKE;
}

/** Letters of a word that count; nobody has longer ones. */
const LONGEST_WORD = 100;

/** The first words of a text, in lower case. @param most of them, so that a text of a million costs no more */
export function wordsOf(text: string, most: number): string[] {
  const words: string[] = [];
  if (most <= 0) return words;
  for (const [word] of text.matchAll(/[\p{L}\p{N}]+/gu)) {
    words.push(word.slice(0, LONGEST_WORD).toLowerCase());
    if (words.length >= most) break;
  }
  return words;
}

function scramble(value: number): number {
  let mixed = Math.imul(value ^ (value >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return (mixed ^ (mixed >>> 16)) >>> 0;
}
