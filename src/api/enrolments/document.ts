import type { OwnershipOnRecord } from '../../core/badge/ownership.js';
import type { Claim } from '../claims/document.js';
import type { LinkState, WantedFact, WorkedBy } from '../engines/document.js';
import type { Badge, EngineRef, Method, Named, NextStep, Reach } from '../parts/document.js';
import type { Placement } from '../tokens/document.js';

export interface EnrolmentLine {
  id: string;
  /** `ferries@veldrane:name` : how it is named on the command line. */
  name: string;
  engine: EngineRef;
  /** Whether a person carries everything to and from the engine. */
  byHand: boolean;
  reach: Reach;
  target: string;
  targetForPeople: string;
  badge: Badge;
  badgeSince: string;
  step: NextStep;
}

export interface Enrolment extends EnrolmentLine {
  property: Named;
  account: Named;
  ref: string;
  createdAt: string;
  methods: Method[];
  placements: Placement[];
  claim: Claim | null;
  ownership: {
    kind: OwnershipOnRecord['kind'];
    at: string;
    /** By which it was confirmed; null where it was withdrawn, or nobody knows. */
    method: Method | null;
    reason: string | null;
    recordedBy: string | null;
  } | null;
  /** Since when the engine does not know it any more. */
  missingSince: string | null;
  /** What the engine has switched off for its account. */
  suspended: LinkState[];
  /** The service's time when this was read, to count waits from. */
  asOf: string;
}

/** An enrolment that has ended at an engine that is worked by hand, as a person recorded it. */
export interface Ending {
  enrolment: string;
  endedAt: string;
}

/** Whether an engine is worth it for a property, and why. */
export interface Fit {
  engine: EngineRef & { worked: WorkedBy };
  fits: boolean;
  why: string;
  /** The enrolments that there are already. */
  enrolled: string[];
  /** What it will ask at registration and nobody has told yet. */
  wants: WantedFact[];
  /** The enrolments that are worth having there, by the property's variants and the engine's reach rules. */
  plan: PlanLine[];
}

/** One enrolment met at an engine, beside what is recorded here. */
export interface Met {
  target: string;
  reach: Reach;
  ref: string;
  ownership: 'none' | 'held' | 'withdrawn';
  /** The property that it belongs to, where one fits. */
  property: Named | null;
  /** `known` here as it is there; `differs`; `new` here; `taken-over` just now; `no-property` fits it; `missing` at the engine. */
  state: 'known' | 'differs' | 'new' | 'taken-over' | 'no-property' | 'missing';
  says: string;
}

/** One enrolment that is worth having. */
export interface PlanLine {
  reach: Reach;
  target: string;
  targetForPeople: string;
  why: string;
  /** The enrolment that does it already. */
  there: string | null;
}
