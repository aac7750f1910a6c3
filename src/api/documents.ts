/** The documents that requests and answers are made of. Times are RFC 3339 in UTC; durations ISO 8601. */
import type { Check, CheckWithEvidence } from './check-documents.js';
import type { EngineRef, LinkState, Met } from './engine-documents.js';
import type { FoundSitemap, PageAnswer } from './sitemap-documents.js';
import type { VariantsInYard } from './variant-documents.js';

export type * from './check-documents.js';
export type * from './sitemap-documents.js';
export type * from './variant-documents.js';
export type * from './engine-documents.js';

export type Role = 'lead' | 'consultant' | 'onlooker';
export type Reach = 'name' | 'address';
export type Method = 'meta' | 'file' | 'dns';
export type Badge = 'bare' | 'issued' | 'in-place' | 'held' | 'slipping' | 'lost';
export type Forecast = 'accept' | 'refuse' | 'unsure';
export type Grade = 'stops' | 'harms' | 'note';

export interface Page<T> {
  items: T[];
  /** What to pass as `after` for the next page; null on the last. */
  next: string | null;
}

export interface Person {
  id: string;
  name: string;
  role: Role;
  createdAt: string;
}

export interface Key {
  id: string;
  /** `session` is a sign-in of the console. */
  kind: 'key' | 'session';
  label: string;
  /** The program that signed in, as it calls itself; null where it said nothing. */
  agent: string | null;
  createdAt: string;
  /** To the hour; null where it was never used. */
  usedAt: string | null;
  /** Null for one of before keys came to an end. */
  expiresAt: string | null;
  /** Whether this request came with it. */
  current: boolean;
}

export interface NewKey extends Pick<Key, 'id' | 'label' | 'createdAt' | 'expiresAt'> {
  /** The secret itself: told this once, kept only as a hash. */
  key: string;
}

export interface Client {
  id: string;
  handle: string;
  name: string;
  contact: string | null;
  /** ISO 3166-1 alpha-2; empty for everyone. */
  audience: string[];
  properties: number;
  createdAt: string;
  version: number;
}

export interface Named {
  id: string;
  handle: string;
}

export interface Property {
  id: string;
  handle: string;
  client: Named & { name: string };
  /** As it was taken on, in the form for machines, and for people. */
  address: string;
  addressForPeople: string;
  host: { ascii: string; unicode: string; registrable: string };
  frontDoor: { address: string | null; forPeople: string | null; says: string | null; seenAt: string | null };
  /** What engines asked of it at registration, by the fact's id. */
  facts: Record<string, string>;
  /** What the client's people can get at; what is absent nobody has said. */
  access: Access;
  createdAt: string;
  archivedAt: string | null;
  version: number;
}

export interface Access {
  zone?: 'yes' | 'no';
  files?: 'yes' | 'no';
  pages?: 'yes' | 'no';
}

export interface NewProperty extends Property {
  /** What was changed in the pasted address, in words. */
  notes: string[];
  /** The job that looks for the front door. */
  job: string;
}

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
  before: { token: string; replacedAt: string; why: 'expired' | 'changed'; put: WhatToPut } | null;
  /** Where the very same token of the account stands already, seen by our checks. */
  standsAt: { enrolment: string; place: string; checkedAt: string }[];
}

export interface Claim {
  id: string;
  enrolment: string;
  method: Method;
  askedAt: string;
  answeredAt: string | null;
  verdict: 'confirmed' | 'refused' | null;
  reason: string | null;
  /** Who recorded it by hand. */
  recordedBy: string | null;
}

export interface NextStep {
  kind: string;
  says: string;
  /** Who has to do it: we, the client's people, the engine; or only time has to pass. */
  acts: 'us' | 'client' | 'engine' | 'time';
  since: string;
  until: string | null;
}

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
    kind: 'confirmed' | 'withdrawn';
    at: string;
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

export interface YardRow {
  property: Named & { addressForPeople: string; client: Named & { name: string } };
  enrolments: EnrolmentLine[];
  sitemaps: { total: number; state: 'unread' | 'clean' | 'flawed' | 'unreachable' | 'none' };
  variants: VariantsInYard;
  /** The engines that matter to its audience, by id. */
  fits: string[];
  step: (NextStep & { engine: string | null }) | null;
}

export interface Yard extends Page<YardRow> {
  /** Properties by the badges that they have: one with two kinds of badges counts for each. */
  counts: Counts;
  /** Those that matter to a property of the page or have one enrolled; `from` where one shows another's results. */
  engines: (EngineRef & { from: EngineRef | null })[];
}

/** One thing to do: one cause at one property, or one engine for all properties that are to be enrolled with it. */
export interface WorkEntry {
  /** The first of them where it is for several. */
  property: Named & { client: Named & { name: string } };
  /** How many properties it is for. */
  properties: number;
  /** The engines that it touches; empty where it is for the website itself. */
  engines: EngineRef[];
  enrolments: { id: string; name: string; engine: string; badge: Badge }[];
  step: NextStep;
}

/** How many there are in all of each kind, with the same filter, whatever the page. */
export type Counts = Record<string, number>;

export interface Worklist extends Page<WorkEntry> {
  /** Entries by kind of step. */
  counts: Counts;
}

/** What is kept ready, held against what the facts say. */
export interface Verification {
  /** How many properties and rows were compared. */
  properties: number;
  rows: number;
  /** What differs, the first 200: the row as kept and as derived, null where there is none. */
  differing: { property: string; table: string; row: string; kept: string | null; derived: string | null }[];
}

export interface JournalEntry {
  seq: number;
  at: string;
  who: string | null;
  kind: string;
  client: string | null;
  property: string | null;
  says: string;
  details: unknown;
}

export interface JobItem {
  id: string;
  subject: string;
  state: 'waiting' | 'running' | 'done' | 'failed';
  result: JobResult | null;
  /** Before this it is not begun; null where nothing is waited for. */
  dueAt: string | null;
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
  /** What was met at the engine, when enrolments were looked for there. */
  met?: Met[];
}

export interface Job {
  id: string;
  kind: string;
  /** `stopped` by a person, until it is resumed. */
  state: 'waiting' | 'running' | 'stopped' | 'done';
  createdAt: string;
  finishedAt: string | null;
  total: number;
  finished: number;
  /** When it goes on, where all that is left of it waits for its time. */
  rests: string | null;
  /** A page of its pieces. */
  items: JobItem[];
  /** What to pass as `after` for the next of its pieces; null on the last page. */
  next: string | null;
}

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
