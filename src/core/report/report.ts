import type { SheetLanguage } from '../sheet/sentences.js';
import { REPORT_WORDS, type ReportWords } from './report-words.js';

/** How a property stands at one engine, in words for people who have never heard of badges. */
export interface StandsAt {
  readonly engine: string;
  readonly isHeld: boolean;
  readonly says: string;
}

/** Something that changed, or that we did. */
export interface Told {
  /** RFC 3339. */
  readonly at: string;
  readonly property: string;
  readonly says: string;
}

/** A harm that we met. */
export interface Harm {
  readonly property: string;
  readonly says: string;
  /** When we saw it, and when it was over; null where it is not. */
  readonly seenAt: string;
  readonly overAt: string | null;
  /** When an engine acted on it; null where none did. */
  readonly actedAt: string | null;
}

/** How many addresses a sitemap had, each number from its time on. */
export interface Counted {
  readonly at: string;
  readonly count: number;
}

export interface SitemapCounts {
  readonly url: string;
  readonly ours: Counted[];
  readonly engines: { readonly engine: string; readonly found: Counted[] }[];
}

/** What a client's owner is told of a stretch of time. */
export interface ClientReport {
  /** In which language it is written, names and what engines said aside. */
  readonly language: SheetLanguage;
  readonly client: string;
  readonly from: string;
  readonly to: string;
  readonly totals: {
    readonly properties: number;
    readonly held: number;
    readonly slipping: number;
    readonly lost: number;
  };
  readonly properties: { readonly address: string; readonly at: StandsAt[] }[];
  readonly changed: Told[];
  readonly did: Told[];
  readonly harms: Harm[];
  readonly sitemaps: SitemapCounts[];
  readonly toDo: { readonly property: string; readonly says: string }[];
}

/** What became of a harm, and how long before an engine acted we saw it. */
export function outcomeOf(
  { seenAt, overAt, actedAt }: Harm,
  { outcome }: ReportWords = REPORT_WORDS.en,
): string {
  const between = (from: string, to: string): number => Math.max(0, Date.parse(to) - Date.parse(from));
  if (actedAt !== null)
    return `${outcome.acted(between(seenAt, actedAt))}${overAt === null ? outcome.open : outcome.mended(between(seenAt, overAt))}`;
  return overAt === null ? outcome.untouched : outcome.mendedUntouched(between(seenAt, overAt));
}
