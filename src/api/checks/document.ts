import type { ServerRole } from '../../core/badge/probe/evidence.js';
import type { Forecast, Grade, Method } from '../parts/document.js';

export interface Finding {
  code: string;
  grade: Grade;
  says: string;
  evidence: Record<string, string | number | boolean | null>;
  remedy: string;
  /** The code of the root cause that this merely follows from; null for a cause of its own. */
  follows: string | null;
}

export interface Check {
  id: string;
  property: string;
  engine: string;
  enrolment: string;
  method: Method;
  place: string;
  /** When it was last seen so, and first; looks that say the same are told as one. */
  checkedAt: string;
  firstAt: string;
  times: number;
  seen: boolean;
  seenSince: string;
  /** Whether something was placed there, rightly or not; a method that nobody chose was not. */
  tried: boolean;
  forecast: Forecast;
  visibleAt: string | null;
  findings: Finding[];
}

export interface HopSeen {
  url: string;
  address: string | null;
  status: number | null;
  location: string | null;
  headers: Record<string, string>;
  certificate: {
    subject: string;
    issuer: string;
    names: string[];
    validFrom: string;
    validUntil: string;
  } | null;
  failure: string | null;
  detail: string | null;
  ms: number;
}

export interface PageSeenShort {
  end: string;
  hops: HopSeen[];
  mediaType: string | null;
  bytes: number | null;
}

export interface TxtSeen {
  value: string;
  /** Seconds. */
  ttl: number;
}

/** What one name server said of the name, asked directly. */
export interface ServerSeen {
  name: string;
  address: string | null;
  /** Delegated to by the parent, named by the zone besides, or known from an earlier look. */
  role: ServerRole;
  authoritative: boolean;
  rcode: string | null;
  records: TxtSeen[];
  alias: string | null;
  serial: number | null;
  refresh: number | null;
  via: string;
  failure: string | null;
}

export type EvidenceSeen =
  | (PageSeenShort & {
      kind: 'page';
      /** The same fetched past every cache. */
      fresh: PageSeenShort | null;
      /** What a browser-like agent got where we were kept out. */
      asBrowser: { status: number | null } | null;
      elsewhere: { url: string; kind: string; status: number | null }[];
      /** The lines around what was found. */
      around: { line: number; column: number; lines: { number: number; text: string }[] } | null;
    })
  | {
      kind: 'dns';
      name: string;
      rcode: string | null;
      records: TxtSeen[];
      aliases: string[];
      negativeTtl: number | null;
      via: string;
      server: string;
      failure: string | null;
      zone: string | null;
      servers: ServerSeen[];
      nearby: { name: string; kind: string; records: TxtSeen[] }[];
      wildcard: boolean;
      /** The addresses that the host has from a wildcard record alone. */
      wildAddresses: string[];
    };

/** A piece of a text, and whether the other text has it too. */
export interface MarkedPiece {
  text: string;
  same: boolean;
}

export interface CheckWithEvidence extends Check {
  /** Null where it was let go for its age. */
  seenThere: EvidenceSeen | null;
  /** What should stand beside what stands, the difference marked; null where nothing stands that was meant to be it. */
  marked: { should: MarkedPiece[]; stands: MarkedPiece[] } | null;
}
