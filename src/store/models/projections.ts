import type { DueWhy } from '../../core/watch/rhythm.js';
/** Rows of what is kept ready: written and read by hand-written statements, in bulk. */

/** Where one enrolment stands; or what is to be done at an engine, or at a property as a whole (`all`), without one. */
export interface StandingValues {
  readonly id: string;
  readonly propertyId: string;
  readonly clientId: string;
  readonly handle: string;
  readonly engine: string;
  readonly enrolmentId: string | null;
  readonly badge: string | null;
  readonly kind: string;
  /** Place in the order of harm: 0 is the worst. */
  readonly harm: number;
  readonly acts: string;
  readonly since: string;
  readonly until: string | null;
  readonly says: string;
  /** When it may change by time alone; null where nothing is waited for. */
  readonly turnsAt: string | null;
  /** To whom it was handed; null where to nobody. */
  readonly personId: string | null;
  /** Until when it is put off; null where it is not. */
  readonly putOff: string | null;
}

/** One thing to do at a property. */
export interface EntryValues {
  /** Its place in the list by harm: no other entry has the same. */
  readonly place: string;
  readonly propertyId: string;
  readonly clientId: string;
  /** Of its step; `put-off` where that is put off. */
  readonly kind: string;
  readonly acts: string;
  /** To whom it was handed; empty where to nobody. */
  readonly personId: string;
  /** Words between blanks. */
  readonly engines: string;
  readonly badges: string;
  readonly words: string;
  readonly document: string;
}

/** A property's line in the yard. */
export interface YardValues {
  readonly propertyId: string;
  readonly clientId: string;
  readonly handle: string;
  readonly words: string;
  readonly badges: string;
  readonly kinds: string;
  /** Those that matter to it or have it enrolled, between blanks. */
  readonly engines: string;
  readonly document: string;
  /** When what people are told of it may change by time alone. */
  readonly turnsAt: string | null;
  /** How far its taking on is, of how many stages. */
  readonly done: number;
  readonly stages: number;
}

/** A sitemap with its newest reading and what engines make of it. */
export interface SitemapValues {
  readonly sitemapId: string;
  readonly propertyId: string;
  readonly clientId: string;
  /** Its place in each order in which sitemaps are listed. */
  readonly byProperty: string;
  readonly byGap: string;
  readonly byAge: string;
  readonly byFall: string;
  /** Whether something is to be done about it: `yes` or `no`. */
  readonly work: string;
  readonly state: string;
  readonly counts: string;
  readonly words: string;
  readonly document: string;
}

/** Something that is watched, and when it is to be looked at next. */
export interface WatchedValues {
  readonly id: string;
  readonly propertyId: string;
  readonly clientId: string;
  readonly handle: string;
  readonly what: string;
  /** What it is called for people. */
  readonly subject: string;
  /** What the look needs to know, as JSON. */
  readonly input: string;
  readonly host: string;
  /** The engine that is asked along with it. */
  readonly engine: string | null;
  /** Milliseconds. */
  readonly every: number;
  readonly lookedAt: string | null;
  /** Why it is due then: by its rhythm, or since the last look did not come out well. */
  readonly why: DueWhy;
  /** 0 comes first. */
  readonly urgency: number;
  readonly dueAt: string;
}
