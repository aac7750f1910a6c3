import type { FollowingKind } from '../../core/variants/move.js';
import type { VariantWhy } from '../../core/variants/to-try.js';
import type { Finding } from '../checks/document.js';
import type { Badge, EngineRef } from '../parts/document.js';
import type { StepKind, VariantRole } from './document.js';

export type { Role as VariantRole } from '../../core/variants/roles.js';

export type { StepKind } from '../../core/variants/follow.js';

/** One address by which a property answers, or might. */
export interface Variant {
  address: string;
  forPeople: string;
  /** How it came to be looked at. */
  why: VariantWhy;
  role: VariantRole;
  /** The weakest way on its way to where it ends. */
  via: StepKind | null;
  endsAt: string | null;
  says: string;
  /** Since when it has this role. */
  since: string;
  seenAt: string;
  steps: { url: string; to: string; kind: StepKind; status: number | null }[];
  status: number | null;
  failure: string | null;
  /** The IP address that was dialled. */
  dialled: string | null;
  certificate: { issuer: string; names: string[]; validUntil: string; daysLeft: number } | null;
  hsts: string | null;
  robotsHeader: string | null;
  /** Robots meta tags by which its page asks engines to stay away. */
  stayAway: string[];
  canonical: string | null;
  siblings: { language: string; url: string }[];
  /** The enrolments that cover it. */
  cover: { engine: EngineRef; enrolment: string; badge: Badge }[];
  /** Whether visitors use it, so that a badge should cover it. */
  used: boolean;
}

export interface VariantFinding extends Finding {
  /** Since when; null for what is worked out from the enrolments as they are now. */
  since: string | null;
}

/** A move of the front door, and what follows from it. */
export interface Move {
  from: string;
  to: string;
  at: string;
  says: string;
  follows: { engine: EngineRef; kind: FollowingKind; says: string; done: boolean }[];
}

export interface Variants {
  property: { id: string; handle: string };
  /** When they were looked at last; null while they were not. */
  seenAt: string | null;
  door: { address: string | null; forPeople: string | null; says: string | null };
  items: Variant[];
  /** Other ways of writing the front door. */
  spellings: { kind: string; url: string; outcome: string; says: string }[];
  findings: VariantFinding[];
  cover: { engine: EngineRef; missed: string[]; uncovered: string[] }[];
  /** Hosts beside the usual ones. */
  hosts: { host: string; forPeople: string; why: string }[];
  /** The newest move; null where there was none. */
  move: Move | null;
  /** Roles that variants had before, the newest first. */
  history: {
    address: string;
    forPeople: string;
    role: VariantRole;
    says: string;
    since: string;
    until: string;
  }[];
  /** Findings that hold no more, the newest first. */
  mended: { code: string; says: string; since: string; until: string }[];
}

/** What the yard tells of a property's variants. */
export interface VariantsInYard {
  /** Variants that visitors use and that no badge covers, at engines that hold one. */
  missed: { engine: EngineRef; address: string }[];
  /** What makes all other work void. */
  stops: string | null;
}
