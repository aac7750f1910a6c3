import type { EnrolmentLine } from '../enrolments/document.js';
import type { Badge, Counts, EngineRef, Named, NextStep, Page } from '../parts/document.js';
import type { SitemapState } from '../sitemaps/document.js';
import type { VariantsInYard } from '../variants/document.js';

export interface YardRow {
  property: Named & { addressForPeople: string; client: Named & { name: string } };
  enrolments: EnrolmentLine[];
  sitemaps: { total: number; state: SitemapState | 'none' };
  variants: VariantsInYard;
  /** The engines that matter to its audience, by id. */
  fits: string[];
  /** What is held for other properties and covers this one too, as the site above a folder. */
  above: { engine: EngineRef; enrolment: string }[];
  step: (NextStep & { engine: string | null }) | null;
  progress: Progress;
}

/** How far the taking on of a property is; of several, all their stages together. */
export interface Progress {
  done: number;
  total: number;
  /** The first stage that is not done; null where all are, or where it is of several. */
  next: string | null;
}

export interface Yard extends Page<YardRow> {
  /** Properties by the badges that they have: one with two kinds of badges counts for each. */
  counts: Counts;
  /** Of all properties with the same filter together. */
  progress: Progress;
  /** Those that matter to a property of the page or have one enrolled; `from` where one shows another's results. */
  engines: (EngineRef & { from: EngineRef | null })[];
}

/** One thing to do: one cause at one property, or one engine for all properties that are to be enrolled with it. */
export interface WorkEntry {
  /** The first of them where it is for several. */
  property: Named & { client: Named & { name: string } };
  /** How many properties it is for. */
  properties: number;
  /** Where it is for several: the handles of those that have waited longest, a hundred at the most. */
  handles?: string[];
  /** The engines that it touches; empty where it is for the website itself. */
  engines: EngineRef[];
  enrolments: { id: string; name: string; engine: string; badge: Badge; byHand: boolean }[];
  step: NextStep;
  /** To whom it was handed; null where to nobody in particular. */
  person: string | null;
  /** Until when it is left, why, and by whom; null where it is not. */
  putOff: { until: string; why: string; who: string | null } | null;
}

/** Which steps are meant: of a property or client, of one kind, at some engines. */
export interface StepsMeant {
  property?: string;
  client?: string;
  kind?: string;
  /** Identifiers or titles. */
  engines?: string[];
}

export interface PutOffInput extends StepsMeant {
  until: string;
  why?: string;
}

export interface HandInput extends StepsMeant {
  /** A name, or `me`; null for nobody in particular. */
  person: string | null;
}

/** How many steps were marked, at how many properties. */
export interface Marked {
  steps: number;
  properties: number;
}

export interface Worklist extends Page<WorkEntry> {
  /** Entries by kind of step; those that are put off by themselves. */
  counts: Counts;
}

/** What is kept ready, held against what the facts say. */
export interface Verification {
  /** How many properties and rows were compared. */
  properties: number;
  rows: number;
  /** What SQLite finds wrong with the file itself, in its own words, the first twenty; empty for a sound one. */
  damage: string[];
  /** Rows that belong to others which are not there, by table and the table that they belong to; none in a sound file. */
  orphans: { table: string; of: string; rows: number }[];
  /** What differs, the first 200: the row as kept and as derived, null where there is none. */
  differing: { property: string; table: string; row: string; kept: string | null; derived: string | null }[];
}
