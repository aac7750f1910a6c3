import type { Badge, EngineRef } from '../parts/document.js';
import type { Method } from '../../core/profile/profile.js';

/** Somebody who holds a site at an engine. */
export interface HolderShown {
  account: string;
  since: string;
  method: Method | null;
  /** Whether it is our own account. */
  own: boolean;
}

/** What an engine knows of one enrolment, and who else holds it there. */
export interface HandoverEnrolment {
  enrolment: string;
  engine: EngineRef;
  /** Under which of our accounts. */
  account: string;
  badge: Badge;
  /** By which method it was claimed. */
  method: Method | null;
  /** Null where nobody has asked yet; `says` where it was noted by hand. */
  holders: { at: string; items: HolderShown[]; says: string | null } | null;
}

/** Something that stands on the website or in the zone. */
export interface Standing {
  engine: string;
  enrolment: string;
  place: string;
  what: string;
}

/** One thing to be done before a client goes. */
export interface HandoverItem {
  item: string;
  says: string;
  /** By the facts, or ticked off by a person; null while it is open. */
  done: { at: string | null; by: string | null; note: string | null } | null;
}

/** What a client takes along when it goes, and what has to be done before. */
export interface Handover {
  client: string;
  name: string;
  begun: { at: string; by: string | null; deleteOn: string | null; endedAt: string | null } | null;
  enrolments: HandoverEnrolment[];
  /** Tokens that have to stay, so that nothing is lost when the agency goes. */
  stays: Standing[];
  /** Tokens that nothing rests on any more. */
  mayGo: Standing[];
  /** Our accounts that the client’s enrolments are under; one that serves others too cannot be passed on. */
  accounts: { engine: EngineRef; name: string; shared: boolean; passedOnAt: string | null }[];
  /** What others have placed for an engine: another agency, or the client itself. Whose it is, the client has to say. */
  foreign: (Standing & { says: string })[];
  items: HandoverItem[];
}
