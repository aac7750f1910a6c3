import type { Method } from './document.js';

export type { Reach } from '../../core/address/reach.js';
export type { Forecast } from '../../core/badge/judge/judge.js';
export type { Badge } from '../../core/badge/standing.js';
export type { Grade } from '../../core/findings/finding.js';
export type { Role } from '../../core/people/roles.js';
export type { Method } from '../../core/profile/profile.js';

export interface Page<T> {
  items: T[];
  /** What to pass as `after` for the next page; null on the last. */
  next: string | null;
}

export interface Named {
  id: string;
  handle: string;
}

export interface NextStep {
  kind: string;
  says: string;
  /** Who has to do it: we, the client's people, the engine; or only time has to pass. */
  acts: 'us' | 'client' | 'engine' | 'time';
  since: string;
  until: string | null;
}

/** How many there are in all of each kind, with the same filter, whatever the page. */
export type Counts = Record<string, number>;

/** RFC 9457. */
export interface ProblemDocument {
  type: string;
  title: string;
  status: number;
  detail: string;
  code: string;
  /** For input that does not fit: which field, and what was expected. */
  faults?: { at: string; says: string }[];
  [more: string]: unknown;
}

export interface EngineRef {
  id: string;
  title: string;
}

/** Which enrolments a request is for. */
export interface WhichEnrolments {
  /** `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, a handle for all of a property, or an identifier. */
  enrolments?: string[];
  all?: boolean;
  method?: Method;
}
