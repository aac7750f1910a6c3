import type { SitemapFormat } from '../../core/profile/profile.js';
import type { TooManyWhy } from '../../core/sitemap/at-engine.js';
import type { CountState } from '../../core/sitemap/comparison.js';
import type { CandidateWhy } from '../../core/sitemap/candidates.js';
import type { Finding } from '../checks/document.js';
import type { EngineRef, Named } from '../parts/document.js';
import type { SitemapState } from './document.js';

export interface Submission {
  id: string;
  enrolment: string;
  enrolmentName: string;
  engine: EngineRef;
  byHand: boolean;
  sentAs: string;
  sentAsForPeople: string;
  submittedAt: string;
  /** When the engine was asked of it last, whatever it said; null where it was not since. */
  askedAt: string | null;
  engineReading: {
    at: string;
    readAt: string | null;
    found: number | null;
    listed: number | null;
    trouble: string | null;
    recordedBy: string | null;
  } | null;
  counts: {
    state: CountState;
    dueBy: string | null;
    /** Ours less the engine's. */
    gap: number | null;
    /** Since when there has been a gap. */
    since: string | null;
    /** Why the engine cannot read it, by our own reading. */
    why: string | null;
  };
  /** Why it is one too many, and the sitemap that makes it so. */
  tooMany: { why: TooManyWhy; by: string } | null;
  findings: Finding[];
}

/** A sitemap that was found at a property's front door. */
export interface FoundSitemap {
  url: string;
  /** Named by the robots.txt, under a usual name, linked as a feed, or noted before. */
  why: CandidateWhy;
  kind: Reading['kind'];
  entries: number;
  /** The first thing that is wrong with it. */
  says: string | null;
  /** Whether it is the one to submit. */
  submit: boolean;
  noted: boolean;
}

export type { SitemapState } from '../../core/sitemap/reading.js';

/** One reading in a line. */
export interface ReadingLine {
  id: string;
  /** When it was last read so, and first; readings that say the same are told as one. */
  at: string;
  firstAt: string;
  times: number;
  kind: SitemapFormat | null;
  state: SitemapState;
  addresses: number;
  children: number;
  newestLastmod: string | null;
  /** The same for the same set of addresses. */
  fingerprint: string | null;
}

export interface Reading extends ReadingLine {
  /** Addresses at the reading before. */
  before: number | null;
  extensions: { images: number; videos: number; news: number; alternates: number };
  /** How many of its pages were tried. */
  tried: number;
  findings: Finding[];
}

/** One sitemap of an index. */
export interface SitemapChild {
  url: string;
  kind: Reading['kind'];
  state: SitemapState;
  addresses: number;
  before: number | null;
  newestLastmod: string | null;
  says: string | null;
}

export interface Sitemap {
  id: string;
  property: Named;
  url: string;
  urlForPeople: string;
  state: SitemapState;
  reading: Reading | null;
  submissions: Submission[];
  /** Whether engines knew it, and it was taken back from each of them. */
  withdrawn: boolean;
  createdAt: string;
}

/** A sitemap with what is in it, and how it went over time. */
/** A page of sitemaps, with how many there are in each state, whatever the page. */
export interface Sitemaps {
  items: Sitemap[];
  next: string | null;
  counts: Record<string, number>;
}

export interface SitemapDetail extends Sitemap {
  /** The first thousand sitemaps of an index. */
  children: SitemapChild[];
  childrenInAll: number;
  /** Newest first; `kept` where its addresses can be compared with another's. */
  readings: (ReadingLine & { kept: boolean })[];
  /** Oldest first. */
  engineReadings: {
    submission: string;
    engine: EngineRef;
    at: string;
    firstAt: string;
    times: number;
    readAt: string | null;
    found: number | null;
    listed: number | null;
    trouble: string | null;
  }[];
}

/** What came and what went between two readings. */
export interface ReadingDifference {
  url: string;
  from: ReadingLine;
  to: ReadingLine;
  added: number;
  removed: number;
  /** As many of them as were asked for. */
  addedFirst: string[];
  removedFirst: string[];
}

export interface NewSitemap extends Sitemap {
  note: string | null;
  /** Whether it was noted just now, and was not there before. */
  isNew: boolean;
}
