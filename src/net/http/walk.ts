import type { Hop, WalkEnd } from '../../core/badge/probe/evidence.js';
import { MAX_HOPS } from '../../core/badge/judge/reach.js';
import type { HopBody, HopResult } from './hop.js';

export interface Walk<T> {
  readonly hops: readonly Hop[];
  readonly end: WalkEnd;
  readonly body: T | null;
}

/** Follows redirects from an address, hop by hop, until an answer, a failure, a circle or the bound. */
export async function walk<T>(
  start: string,
  hopTo: (url: URL, read: HopBody<T>) => Promise<HopResult<T>>,
  read: HopBody<T>,
): Promise<Walk<T>> {
  const hops: Hop[] = [];
  const seen = new Set<string>();
  let url = new URL(start);
  for (;;) {
    if (seen.has(url.href)) return { hops, end: 'loop', body: null };
    if (hops.length > MAX_HOPS) return { hops, end: 'too-many-hops', body: null };
    seen.add(url.href);
    const { hop, body } = await hopTo(url, read);
    hops.push(hop);
    if (hop.failure !== null) return { hops, end: 'failed', body: null };
    if (hop.location === null) return { hops, end: 'answered', body };
    url = new URL(hop.location);
  }
}
