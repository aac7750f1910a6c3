import type { Reach } from '../address/reach.js';
import { finding } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import type { Comparison } from './comparison.js';
import type { SitemapKind } from './reading.js';
import { writtenDay } from '../time/time-formats.js';

/** An engine lists fewer than this part of what it found, and found enough for that to mean something. */
const LISTED_LOW = 1 / 2;
const ENOUGH = 10;

/** A sitemap as one engine knows it. */
export interface KnownAt {
  /** What tells submissions apart. */
  readonly id: string;
  readonly engine: { readonly id: string; readonly title: string };
  /** By which enrolment: of the site's name or of one address of it. */
  readonly reach: Reach;
  readonly url: string;
  readonly kind: SitemapKind | null;
  /** The sitemaps that it lists, where it is an index. */
  readonly children: readonly string[];
}

/** Why a submission is one too many: it stands in a submitted index, or is known there under another spelling. */
export const TOO_MANY_WHYS = ['index', 'twice'] as const;
export type TooManyWhy = (typeof TOO_MANY_WHYS)[number];

/** A submission that is one too many. */
export interface TooMany {
  readonly why: TooManyWhy;
  /** The sitemap that makes it so. */
  readonly by: string;
}

/**
 * Which submissions of a property are one too many at their engine: a child beside its index, and the same sitemap by
 * another variant of its address, or by another enrolment.
 * @param all in the order in which they were submitted; of two alike the one that is not at the front door is too many,
 *   else the one by name, else the later one
 * @param door the origin of the front door
 */
export function tooManyOf(all: readonly KnownAt[], door: string): ReadonlyMap<string, TooMany> {
  const found = new Map<string, TooMany>();
  for (const one of all) {
    const beside = all.filter((other) => other.id !== one.id && other.engine.id === one.engine.id);
    const index = beside.find(({ children }) => children.some((child) => bare(child) === bare(one.url)));
    if (index) {
      found.set(one.id, { why: 'index', by: index.url });
      continue;
    }
    const alike = beside.filter(({ id, url }) => bare(url) === bare(one.url) && !found.has(id));
    const better = alike.find((other) => rank(other) < rank(one));
    if (better) found.set(one.id, { why: 'twice', by: better.url });
  }
  return found;

  function rank(one: KnownAt): number {
    const aside = (one.url.startsWith(`${door}/`) ? 0 : 2) + (one.reach === 'address' ? 0 : 1);
    return all.indexOf(one) + aside * all.length;
  }
}

/** An address without what tells variants apart. */
function bare(url: string): string {
  return url.replace(/^https?:\/\/(www\.)?/u, '');
}

/** Whether an engine knows nothing of a property but feeds. */
export function knowsOnlyFeeds(all: readonly KnownAt[], engine: string): boolean {
  const known = all.filter((one) => one.engine.id === engine);
  return known.length > 0 && known.every(({ kind }) => kind === 'rss' || kind === 'atom');
}

/** What the counts of one submission say, and how it was made known. */
export function judgeSubmission(
  one: KnownAt,
  counts: Comparison,
  facts: {
    readonly ours: number | null;
    readonly found: number | null;
    readonly listed: number | null;
    readonly readAt: Date | null;
    readonly trouble: string | null;
    readonly tooMany: TooMany | null;
    readonly feedAlone: boolean;
  },
): Finding[] {
  const at = { url: one.url, engine: one.engine.title };
  const { found, listed } = facts;
  const findings: Finding[] = [];
  if (facts.tooMany?.why === 'index')
    findings.push(finding('sitemap.beside-index', { ...at, index: facts.tooMany.by }));
  if (facts.tooMany?.why === 'twice')
    findings.push(
      finding('sitemap.sent-twice', {
        ...at,
        other: facts.tooMany.by === one.url ? 'another enrolment' : facts.tooMany.by,
      }),
    );
  if (facts.feedAlone) findings.push(finding('sitemap.feed-alone', at));
  findings.push(...ofCounts(at, counts, facts));
  if (found !== null && listed !== null && found >= ENOUGH && listed < found * LISTED_LOW)
    findings.push(finding('sitemap.listed-low', { ...at, found, listed }));
  return findings;
}

function ofCounts(
  at: { url: string; engine: string },
  { state, gap, since, dueBy, why }: Comparison,
  { ours, found, readAt, trouble }: Parameters<typeof judgeSubmission>[2],
): Finding[] {
  switch (state) {
    case 'apart':
      return gap === null || since === null
        ? []
        : [
            finding('sitemap.engine-apart', {
              ...at,
              found,
              ours,
              gap: Math.abs(gap),
              since: day(since),
            }),
          ];
    case 'behind':
      return [finding('sitemap.engine-behind', { ...at, found, ours, read: day(readAt) })];
    case 'overdue':
      return [finding('sitemap.engine-overdue', { ...at, due: day(dueBy) })];
    case 'troubled':
      return [finding('sitemap.engine-troubled', { ...at, trouble })];
    case 'broken':
      return [finding('sitemap.engine-kept', { ...at, why })];
    case 'waiting':
    case 'equal':
      return [];
  }
}

function day(time: Date | null): string {
  return time ? writtenDay(time) : '';
}
