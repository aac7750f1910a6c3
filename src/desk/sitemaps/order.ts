import type { Sitemap } from '../../api/documents.js';
import { COUNT_CASES } from '../../core/sitemap/comparison.js';
import type { SitemapOrder } from '../../core/sitemap/list-order.js';

const MOST_ADDRESSES = 999_999_999_999;

/** The place of a sitemap in each order, as texts that sort so; `name` is its place by property, which no other has. */
export function placesOf(sitemap: Sitemap, name: string): Record<SitemapOrder, string> {
  const descending = (value: number) => String(Math.round(MOST_ADDRESSES - value)).padStart(12, '0');
  return {
    gap: `${descending(gapOf(sitemap))} ${name}`,
    age: `${readAt(sitemap)} ${name}`,
    fall: `${descending(fallOf(sitemap) * 1_000_000)} ${name}`,
    property: name,
  };
}

/** How far the worst engine's count is from ours. One that has no count is no gap: it comes behind all that are. */
function gapOf({ submissions }: Sitemap): number {
  return Math.max(-1, ...submissions.map(({ counts }) => (counts.gap === null ? 0 : Math.abs(counts.gap))));
}

/** Which part of its addresses a sitemap lost since the reading before. */
function fallOf({ reading }: Sitemap): number {
  if (!reading || reading.before === null || reading.before === 0) return 0;
  return (reading.before - reading.addresses) / reading.before;
}

/** Whether something is to be done about it: by our reading, or by what an engine makes of it. */
export function needsWork({ state, submissions, withdrawn }: Sitemap): boolean {
  return (
    (!withdrawn && (state === 'flawed' || state === 'unreachable')) ||
    submissions.some(({ counts, tooMany }) => COUNT_CASES.includes(counts.state) || tooMany !== null)
  );
}

/** When it was last read, by us or by the engine that is farthest behind. */
function readAt({ reading, submissions }: Sitemap): string {
  const times = submissions.map(({ engineReading }) => engineReading?.readAt ?? '');
  return [reading?.at ?? '', ...times].sort()[0] ?? '';
}
