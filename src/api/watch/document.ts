import type { Counts, Named, Page } from '../parts/document.js';

/** Something that is looked at by itself, and when next. */
export interface WatchedThing {
  id: string;
  what: 'placement' | 'variants' | 'sitemap';
  /** `ferries@veldrane meta`, a handle, or the address of a sitemap. */
  subject: string;
  property: Named;
  /** Seconds between two looks. */
  every: number;
  lookedAt: string | null;
  dueAt: string;
  /** `again` where the last look did not come out well; `alarm` where another look at its property did not. */
  why: 'rhythm' | 'again' | 'alarm';
  /** Why it is not looked at now; null where it is. */
  paused: string | null;
}

/** What is not looked at for a while, and why; of everything where neither property nor client is told. */
export interface Pause {
  id: string;
  property: string | null;
  client: string | null;
  why: string;
  who: string | null;
  since: string;
  until: string | null;
}

/** What is watched, soonest due first, and how the watch is. */
export interface Watch extends Page<WatchedThing> {
  asOf: string;
  /** Whether anything is looked at by itself. */
  on: boolean;
  /** How many are watched by what they are; `due` and `underWay` among them. */
  counts: Counts;
  /** When the next is due; null where nothing is watched. */
  nextAt: string | null;
  pauses: Pause[];
  /** Since when nothing can be reached from here; null where websites can. */
  cutOff: { since: string; says: string } | null;
  /** The looks of the past day: how many, how many came to nothing, and how late they were, in seconds. */
  pastDay: { looks: number; failed: number; lateMedian: number; lateMost: number };
}
