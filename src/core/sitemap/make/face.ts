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

/** FNV-1a over several texts, 32 bits. */
export function hashOf(texts: Iterable<string>): number {
  let value = 0x811c9dc5;
  for (const text of texts) {
    for (let at = 0; at < text.length; at += 1) value = Math.imul(value ^ text.charCodeAt(at), 0x01000193);
    // Between two texts: “a b” is not “ab”.
    value = Math.imul(value ^ 0x1f, 0x01000193);
  }
  return value >>> 0;
}
