import type { ItemState, JobState } from '../../core/record/states.js';
import type { Publication } from '../publishing/document.js';
import type { Check } from '../checks/document.js';
import type { Claim } from '../claims/document.js';
import type { Met } from '../enrolments/document.js';
import type { PageAnswer } from '../page-lookups/document.js';
import type { RobotsShown } from '../robots/document.js';
import type { FoundSitemap } from '../sitemaps/document.js';

export interface JobItem {
  id: string;
  subject: string;
  state: ItemState;
  result: JobResult | null;
  /** Before this it is not begun; null where nothing is waited for. */
  dueAt: string | null;
  /** How far it is, in words, while it runs; null where there is nothing to tell. */
  progress: string | null;
}

/** What one piece of a job came to. `stops` tells whether the caller has something to mend. */
export interface JobResult {
  says: string;
  stops: boolean;
  /** Present when the piece failed or was refused. */
  problem?: { code: string; detail: string };
  enrolment?: string;
  check?: Check;
  claim?: Claim;
  sitemap?: string;
  property?: string;
  placements?: number;
  /** Something to know although it went well. */
  warning?: string;
  /** What an engine said of a single page, and what is left of the day's ration. */
  page?: PageAnswer;
  /** The sitemaps that were found, when they were looked for. */
  found?: FoundSitemap[];
  /** What was published at a target, or would be. */
  publication?: Publication;
  /** What a robots.txt says. */
  robots?: RobotsShown;
  /** What was met at the engine, when enrolments were looked for there. */
  met?: Met[];
}

export interface Job {
  id: string;
  kind: string;
  /** `stopped` by a person, until it is resumed. */
  state: JobState;
  createdAt: string;
  finishedAt: string | null;
  total: number;
  finished: number;
  /** When it goes on, where all that is left of it waits for its time. */
  rests: string | null;
  /** A page of its pieces; none of a job that is done so long that they were let go. */
  items: JobItem[];
  /** What to pass as `after` for the next of its pieces; null on the last page. */
  next: string | null;
}
