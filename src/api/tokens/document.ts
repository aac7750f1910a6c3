import type { AdviceRank } from '../../core/badge/advice.js';
import type { ReplacedWhy } from '../../core/record/states.js';
import type { CheckWithEvidence } from '../checks/document.js';
import type { EngineRef, Method } from '../parts/document.js';

export type WhatToPut =
  | { kind: 'meta'; page: string; name: string; content: string; tag: string }
  | { kind: 'file'; url: string; path: string; fileName: string; content: string; bytes: number }
  | { kind: 'dns'; zone: string; recordName: string; type: 'TXT'; value: string; zoneLine: string };

export interface Placement {
  method: Method;
  token: string;
  issuedAt: string;
  expiresAt: string | null;
  place: string;
  put: WhatToPut;
  check: CheckWithEvidence | null;
  /** Who pasted the token, where nobody but a person could. */
  recordedBy: string | null;
  /** The token that it took the place of: what was placed with it is old. */
  before: { token: string; replacedAt: string; why: ReplacedWhy; put: WhatToPut } | null;
  /** Where the very same token of the account stands already for sites of the same client, seen by our checks. */
  standsAt: { enrolment: string; place: string; checkedAt: string }[];
  /** Whether it is the account’s, so that each site under it has the same. */
  ofAccount: boolean;
}

/** What was read out of something pasted. */
export interface PastedToken {
  enrolment: string;
  method: Method;
  token: string;
  /** The first one, the one known already, or another than before. */
  news: 'first' | 'same' | 'changed';
  notes: string[];
}

/** Whose a token is that somebody came upon. */
export interface TokenOwner {
  token: string;
  method: Method;
  enrolment: string;
  engine: EngineRef;
  property: string;
  client: string;
  /** When another took its place, and when the enrolment ended; null where it is in force. */
  replacedAt: string | null;
  endedAt: string | null;
}

/** Which method to have placed for an enrolment, before anything is. */
export interface Advice {
  enrolment: { id: string; name: string };
  /** The best first. */
  methods: { method: Method; rank: AdviceRank; why: string[]; later: string }[];
  /** By which method the client’s people were asked to prove it; null where nobody has asked them. */
  asked: Method | null;
  /** What nobody has said of what the client's people can get at. */
  unknown: ('zone' | 'files' | 'pages')[];
}
