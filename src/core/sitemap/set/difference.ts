import { Hash } from './hash.js';
import { HashSet56 } from './hash-set.js';

/** A set of addresses that is kept in chunks. */
export interface KeptSet {
  /** The names of its chunks: two that have the same name hold the same. */
  readonly chunks: readonly string[];
  /** The addresses of one of them. */
  readonly open: (chunk: string) => Promise<readonly string[]>;
}

/** What one set has and the other has not. */
export interface SetDifference {
  readonly added: number;
  readonly removed: number;
  /** The first few of each, in order. */
  readonly addedFirst: readonly string[];
  readonly removedFirst: readonly string[];
}

/**
 * What came and what went between two readings. Chunks that both have are opened only where something differs at all; no
 * more than the hashes of one side are held at a time.
 * @param most how many of each to name
 */
export async function differenceOf(before: KeptSet, after: KeptSet, most: number): Promise<SetDifference> {
  const added = await notIn(after, before, most);
  const removed = await notIn(before, after, most);
  return {
    added: added.count,
    removed: removed.count,
    addedFirst: added.first,
    removedFirst: removed.first,
  };
}

/** What `one` has and `other` has not. */
async function notIn(
  one: KeptSet,
  other: KeptSet,
  most: number,
): Promise<{ count: number; first: string[] }> {
  const both = new Set(other.chunks);
  const own = one.chunks.filter((chunk) => !both.has(chunk));
  const hash = new Hash();
  const seen = new HashSet56();
  // An address may stand in two files: it is not new where a chunk that both have holds it as well.
  if (own.length > 0)
    for (const chunk of other.chunks)
      for (const address of await other.open(chunk)) seen.add(hash.of(address));
  let count = 0;
  const first: string[] = [];
  for (const chunk of own)
    for (const address of await one.open(chunk)) {
      if (seen.add(hash.of(address))) continue;
      count += 1;
      if (first.length < most) first.push(address);
    }
  return { count, first: first.sort() };
}
