import type { Sitemap } from '../../../api/documents.js';
import { isCase } from './words.js';

export type Sort = 'gap' | 'age' | 'fall' | 'property';

export const SORTS: readonly { readonly id: Sort; readonly title: string }[] = [
  { id: 'gap', title: 'largest gap' },
  { id: 'age', title: 'longest unread' },
  { id: 'fall', title: 'largest fall' },
  { id: 'property', title: 'property' },
];

/** How far the worst engine's count is from ours; one that has no count yet counts as the whole. */
export function gapOf({ reading, submissions }: Sitemap): number {
  const ours = reading?.addresses ?? 0;
  return Math.max(
    -1,
    ...submissions.map(({ counts }) => {
      if (counts.gap !== null) return Math.abs(counts.gap);
      return counts.state === 'waiting' ? 0 : ours;
    }),
  );
}

/** Which part of its addresses a sitemap lost since the reading before. */
export function fallOf({ reading }: Sitemap): number {
  if (!reading || reading.before === null || reading.before === 0) return 0;
  return (reading.before - reading.addresses) / reading.before;
}

export function needsWork(sitemap: Sitemap): boolean {
  return sitemap.state === 'flawed' || sitemap.state === 'unreachable' || sitemap.submissions.some(isCase);
}

/** When it was last read, by us or by the engine that is farthest behind. */
function readAt({ reading, submissions }: Sitemap): string {
  const times = submissions.map(({ engineReading }) => engineReading?.readAt ?? '');
  return [reading?.at ?? '', ...times].sort()[0] ?? '';
}

export function inOrder(sitemaps: readonly Sitemap[], sort: Sort): Sitemap[] {
  const byName = (a: Sitemap, b: Sitemap) =>
    a.property.handle.localeCompare(b.property.handle) || a.url.localeCompare(b.url);
  const by: Record<Sort, (a: Sitemap, b: Sitemap) => number> = {
    gap: (a, b) => gapOf(b) - gapOf(a),
    age: (a, b) => readAt(a).localeCompare(readAt(b)),
    fall: (a, b) => fallOf(b) - fallOf(a),
    property: byName,
  };
  return [...sitemaps].sort((a, b) => (by[sort] ?? byName)(a, b) || byName(a, b));
}
