import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

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
}

export interface TxtState {
  name: string;
  value: string;
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
    return new Date(Date.parse(shown) + (Date.now() - Date.parse(from)) * rate);
  }

  /** Puts the clock forward. @param ms of shown time */
  advance(ms: number): void {
    const shown = new Date(this.now().getTime() + ms);
    this.state.clock = { ...this.state.clock, from: new Date().toISOString(), shown: shown.toISOString() };
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
    return JSON.parse(readFileSync(file, 'utf8')) as WorldState;
  } catch {
    return null;
  }
}
