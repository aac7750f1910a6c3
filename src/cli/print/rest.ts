import type { Counts } from '../../api/documents.js';
import { paint, plain, say } from './text.js';

/** Says what is not shown: how many there are of each kind, and how to see more. */
export function sayRest(shown: number, all: number, kinds: string, next: string | null): void {
  if (all === 0) return;
  const more = next === null ? '' : ` --limit N or --after "${next}" shows more.`;
  say(paint.dim(plain(`${String(shown)} of ${String(all)}${kinds === '' ? '' : `: ${kinds}`}.${more}`)));
}

/** Counts as a sentence has them, without what there is none of. */
export function inWords(counts: Counts): string {
  return Object.entries(counts)
    .filter(([, count]) => count > 0)
    .map(([kind, count]) => `${String(count)} ${kind}`)
    .join(', ');
}
