import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { machineClock } from '../net/time/machine-clock.js';

/** A website of many pages that link to one another, as `pages` of a website’s state wants it. */
export interface ManyPages {
  /** Pages with words of their own; lists of them come beside. */
  count: number;
  /** Whether it is full of what keeps a reader busy without end. */
  traps: boolean;
}

export interface SiteState {
  /** The host where the pages are; others of the site only lead there. */
  host: string;
  aliases: string[];
  title: string;
  words: string;
  /** Elements that somebody added to the home page. */
  head: string[];
  body: string[];
  files: Record<string, { content: string; type: string }>;
  /** How many addresses its sitemaps list, by path; one at `/sitemap.xml` with others beside it is an index. */
  sitemaps: Record<string, number>;
  /** `down` refuses connections by cutting them. */
  serves: 'pages' | 'down' | 'errors';
  /** Answers that were arranged in place of the usual ones, by path; `*` for every path that has nothing else. */
  answers: Record<string, AnswerState>;
  /** Whether only browsers are let in. */
  wall: boolean;
  /** Whether every host answers by itself, over HTTP too, in place of leading to the one over HTTPS. */
  plain: boolean;
  /** The copy that a cache before it hands out, made at a time and kept for so many seconds; of the home page unless told. */
  copy: { path?: string; status?: number; html: string; at: string; seconds: number } | null;
  certificate: CertificateKind;
  /** A folder of this machine that is its web root: what stands in there is served before all else. */
  webRoot?: string;
  /** Pages that link to one another; without, there is the home page alone. */
  pages?: ManyPages;
  /** What single origins of it do in place of the usual, by origin: `http://www.quay.example`. */
  variants: Record<string, VariantState>;
}

/** What one origin of a website does. */
export type VariantState = (
  | { how: 'redirect'; to: string; status?: number }
  | { how: 'refresh' | 'script' | 'frame'; to: string }
  | { how: 'page'; words?: string; head?: string[] }
  | { how: 'status'; status: number }
  | { how: 'down' }
) & {
  /** Headers that all its answers have. */
  headers?: Record<string, string>;
  certificate?: CertificateKind;
};

export type CertificateKind =
  'good' | 'ends-soon' | 'expired' | 'other-name' | 'self-signed' | 'no-chain' | 'unknown';

export interface AnswerState {
  status: number;
  headers?: Record<string, string>;
  body?: string;
  /** Whether the body is told in base 64. */
  base64?: boolean;
  gzip?: boolean;
  delayMs?: number;
  cut?: boolean;
}

/** A record as a zone file would have it; the name may begin with `*.` (RFC 4592). */
export interface TxtState {
  name: string;
  value: string;
  /** Its character strings, where they are not simply the value cut to size. */
  strings?: string[];
}

/** What is odd about the DNS of the rehearsal. Everything else stands alike at both servers of every zone. */
export interface NamesState {
  aliases: { name: string; to: string }[];
  /** Names, and what answers for them in place of the truth. */
  fails: { name: string; how: 'servfail' | 'refused' | 'silent'; at: 'resolver' | 'ns1' | 'ns2' | 'both' }[];
  /** Zones whose second server has older data: what it has of TXT records, and its serial. */
  lagging: { zone: string; txt: TxtState[]; serial: number }[];
  /** Zones that were edited at a host to which nobody is sent, and what stands there. */
  attic: { zone: string; txt: TxtState[] }[];
  /** What the resolver still remembers, until a time of the fast clock. */
  remembered: { name: string; values: string[]; until: string }[];
  /** Whether the resolver fails that the agency's own machine asks; the engines have theirs. */
  oursFails?: boolean;
  /** Hosts that have no address, or another than the websites' one. */
  hosts: { host: string; address: string | null }[];
}

/** A website that does nothing odd. */
export function nothingOdd(): Pick<
  SiteState,
  'answers' | 'wall' | 'plain' | 'copy' | 'certificate' | 'variants'
> {
  return { answers: {}, wall: false, plain: false, copy: null, certificate: 'good', variants: {} };
}

export function plainNames(): NamesState {
  return { aliases: [], fails: [], lagging: [], attic: [], remembered: [], hosts: [] };
}

export interface EngineToken {
  value: string;
  expiresAt: string | null;
}

export interface EngineEnrolment {
  id: string;
  account: string;
  reach: 'name' | 'address';
  target: string;
  tokens: Record<string, EngineToken>;
  ownership: { state: 'none' | 'held' | 'withdrawn'; since?: string; method?: string; reason?: string };
  lastLook: string | null;
  missingSince: string | null;
  claims: Record<
    string,
    { id: string; verdict: 'confirmed' | 'refused'; reason: string; at: string; method: string }
  >;
  sitemaps: EngineSitemap[];
}

export interface EngineSitemap {
  id: string;
  address: string;
  url: string;
  submittedAt: string;
  tries: number;
  triedAt: string | null;
  readAt: string | null;
  found: number | null;
  listed: number | null;
  trouble: string | null;
  /** Whether somebody said that it has changed. */
  isPinged?: boolean;
}

export interface EngineState {
  enrolments: EngineEnrolment[];
  /** The one token of each account, at an engine that has one for all its sites. */
  accountTokens: Record<string, EngineToken>;
  /** Lookups and visits by kind, account and day. */
  spent: Record<string, number>;
  /** What was answered to a POST with an Idempotency-Key. */
  replays: Record<string, { status: number; body: unknown }>;
  /** Every claim that was judged, in order: a claim is spent when it stands here. */
  claimsJudged: string[];
}

export interface WorldState {
  clock: { from: string; shown: string; rate: number };
  sites: SiteState[];
  txt: TxtState[];
  names: NamesState;
  engines: Record<string, EngineState>;
}

/** The rehearsal's memory: one JSON file, written whole at every change. */
export class WorldFile {
  private readonly file: string;
  private writing = false;
  readonly state: WorldState;

  /** @param initial what the world begins with when the folder has none yet */
  constructor(
    private readonly folder: string,
    initial: () => WorldState,
  ) {
    mkdirSync(folder, { recursive: true });
    this.file = join(folder, 'world.json');
    this.state = readState(this.file) ?? initial();
    this.tellTime();
    this.flush();
  }

  /** Has it written down soon: many changes in one go are one writing. */
  save(): void {
    if (this.writing) return;
    this.writing = true;
    setImmediate(() => {
      this.flush();
    });
  }

  /** Writes it down now. */
  flush(): void {
    this.writing = false;
    replace(this.file, JSON.stringify(this.state, null, 1));
  }

  now(): Date {
    const { from, shown, rate } = this.state.clock;
    return new Date(Date.parse(shown) + (machineClock.now().getTime() - Date.parse(from)) * rate);
  }

  /** Puts the clock forward. @param ms of shown time */
  advance(ms: number): void {
    const shown = new Date(this.now().getTime() + ms);
    this.state.clock = {
      ...this.state.clock,
      from: machineClock.now().toISOString(),
      shown: shown.toISOString(),
    };
    this.tellTime();
    this.save();
  }

  /** The service reads the time from a file of its own, at once. */
  private tellTime(): void {
    replace(join(this.folder, 'clock.json'), JSON.stringify(this.state.clock));
  }
}

/** Puts a file in place whole, so that nobody reads half of one. */
function replace(file: string, text: string): void {
  writeFileSync(`${file}.new`, text);
  renameSync(`${file}.new`, file);
}

function readState(file: string): WorldState | null {
  try {
    const state = JSON.parse(readFileSync(file, 'utf8')) as WorldState;
    // A folder of an earlier version lacks what could not be odd then.
    const sites = state.sites.map((site) => ({ ...nothingOdd(), ...site }));
    return { ...state, sites, names: { ...plainNames(), ...(state.names as NamesState | undefined) } };
  } catch {
    return null;
  }
}
