import type { Method } from '../../profile/profile.js';
import type { Placement } from '../placement.js';
import { writtenDay } from '../../time/time-formats.js';

/** A token that the product knows, of whatever engine, property and time. */
export interface KnownToken {
  readonly value: string;
  readonly method: Method;
  readonly engine: string;
  readonly engineTitle: string;
  /** Handle of the property. */
  readonly property: string;
  /** When another took its place; null for one in force. */
  readonly replacedAt: Date | null;
  /** Whether a badge hangs on it, or may: it is in force, or was replaced while the engine still holds by it. */
  readonly inUse: boolean;
}

/** What a check is for, as far as foreign tokens are told apart from it. */
export interface OwnSide {
  readonly engine: string;
  readonly property: string;
}

/** Longest first, since a token may hold another word. */
const WORD = /[\w-]{6,}/gu;
const MOST_WORDS = 200;

/** The words in a text that could be somebody's token. */
export function tokenWords(texts: readonly string[]): string[] {
  const words = new Set<string>();
  for (const text of texts)
    for (const [word] of text.slice(0, 4096).matchAll(WORD)) {
      words.add(word);
      if (words.size >= MOST_WORDS) return [...words];
    }
  return [...words];
}

/** No token is shorter than this that is looked for by itself. */
const SHORTEST_SOUGHT = 8;
const MOST_SOUGHT = 400;

/**
 * The words in something pasted that could be a token by themselves, or what is left of them behind the name of a method: a tag, a
 * file’s name or content, a TXT record.
 */
export function wordsSought(text: string): string[] {
  const words = tokenWords([text]).flatMap((word) => {
    const parts = [...word.matchAll(/[-_]/gu)].map(({ index }) => word.slice(index + 1));
    return [word, ...parts];
  });
  return [...new Set(words)].filter((word) => word.length >= SHORTEST_SOUGHT).slice(0, MOST_SOUGHT);
}

/**
 * Whose token a text holds; null where it holds none that is known, or only the very one that is wanted. A token that an account
 * has for all of its sites is this site’s own, where it is that too.
 */
export function ownerOf(
  text: string,
  token: string,
  known: readonly KnownToken[],
  own?: OwnSide,
): KnownToken | null {
  const words = new Set(tokenWords([text]));
  const found = known.filter((one) => one.value !== token && words.has(one.value));
  const isOwn = ({ property }: KnownToken) => (property === own?.property ? 1 : 0);
  return found.sort((a, b) => b.value.length - a.value.length || isOwn(b) - isOwn(a))[0] ?? null;
}

/**
 * A known token in words: “Sundrel’s meta token for the same site”, “the token that Veldrane replaced on 2026-05-03”. They may be
 * sent to a client’s people, so no other client’s site is named in them.
 */
export function ownerInWords(owner: KnownToken, own: OwnSide): string {
  const site = owner.property === own.property ? 'the same site' : 'another site';
  if (owner.replacedAt === null) return `${owner.engineTitle}’s ${owner.method} token for ${site}`;
  const day = writtenDay(owner.replacedAt);
  return owner.engine === own.engine && owner.property === own.property
    ? `the token that ${owner.engineTitle} replaced on ${day}`
    : `an old token of ${owner.engineTitle} for ${site}, replaced on ${day}`;
}

/** What must stand at a placement, whatever its method. */
export function wantedText(placement: Placement): string {
  return placement.method === 'dns' ? placement.value : placement.content;
}
