import { fnv1a, fnv1aOver, FNV_OFFSET } from '../../text/fnv.js';
import { isSameSketch } from './sketch.js';

/** What tells one page of a website from another, in so much as can be kept of each. */
export interface PageFace {
  /** Of all its words (`sketch`); null for a page without any. */
  readonly sketch: string | null;
  /** A hash of its words in their order, and of its images: 32 bits. */
  readonly text: number;
  /** A hash of how it is called: its title, its headings, its description, its structured data. 32 bits. */
  readonly name: number;
  /** Whether it has so few words of its own that a script may make it another page for each address. */
  readonly isShell: boolean;
  /** Whether it names its own address as the one by which it wants to be known (RFC 6596). */
  readonly isOwn: boolean;
}

/** How a page stands to another one: something else, the same at another address, or so like it that nobody can tell. */
export type Likeness = 'other' | 'same' | 'alike';

/**
 * Whether two pages show the same. The same is only what is called the same and has every word in common: what differs by a price, a name
 * or a number is a page of its own, however much they share. A page that is lost does more harm than one that stands there twice.
 */
export function likeness(a: PageFace | null, b: PageFace | null): Likeness {
  if (a === null || b === null || a.name !== b.name) return 'other';
  if (a.text === b.text) return a.isShell || b.isShell || (a.isOwn && b.isOwn) ? 'alike' : 'same';
  return isSameSketch(a.sketch, b.sketch) ? 'alike' : 'other';
}

/** A hash of several texts in their order, 32 bits. @param words hashes of what comes before them */
export function hashOf(texts: Iterable<string>, words: ArrayLike<number> = []): number {
  let value = FNV_OFFSET;
  for (let nth = 0; nth < words.length; nth += 1) value = fnv1aOver(value, words[nth] as number);
  // An end after each: “a b” is not “ab”.
  for (const text of texts) value = fnv1a('\u001f', fnv1a(text, value));
  return value >>> 0;
}
