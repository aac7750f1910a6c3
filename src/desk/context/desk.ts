import type { ClaimsBy } from '../../core/record/states.js';
import type { EventEmitter } from 'node:events';
import type { EngineProfile } from '../../core/profile/profile.js';
import type { Rhythms } from '../../core/watch/rhythm.js';
import type { Namespaces } from '../../core/sitemap/make/write.js';
import type { Agency } from '../../core/report/report-formats.js';
import type { Clock } from '../../core/time/clock.js';
import type { Engine } from '../../engines/engine.js';
import type { Net } from '../../net/net.js';
import { AccountRow } from '../../store/models/accounts.js';
import type { EnrolmentRow } from '../../store/models/enrolments.js';
import type { Store } from '../../store/store.js';
import { Problem } from '../../api/problems.js';
import type { EngineBook } from '../engine-book/book.js';
import type { LinkStates } from '../engine-book/link-states.js';
import { engineIdOf } from './engine-ref.js';

/** How sitemaps are read and kept. */
export interface SitemapSettings {
  /** How many pages of one are tried at a reading. */
  readonly sample: number;
  /** ISO 8601: how long every reading is kept, and how long one a week. */
  readonly keepAll: string;
  readonly keepWeekly: string;
  /** Of sitemaps with more addresses than this only counts are kept. */
  readonly keepAddresses: number;
  /** Requests at once that a website gets at the most while its pages are gathered. */
  readonly atOnce: number;
  /** The namespaces of what a made sitemap says beyond the protocol; they are those of whoever invented the extension. */
  readonly namespaces: Namespaces;
}

/** What looks after things by itself, and how often. */
export interface WatchSettings extends Rhythms {
  /** Whether anything is looked at by itself. */
  readonly on: boolean;
}

/** Where the service itself may write files of websites. */
export interface PublishSettings {
  /** Folders of this machine; below them, and nowhere else. */
  readonly folders: readonly string[];
}

/** What every use case works with. Made once at start; nothing reaches for it by itself. */
export interface Desk {
  readonly store: Store;
  readonly net: Net;
  readonly clock: Clock;
  readonly book: EngineBook;
  readonly links: LinkStates;
  readonly sitemaps: SitemapSettings;
  readonly watch: WatchSettings;
  readonly publish: PublishSettings;
  /** Who makes claims, where a client is not for itself. */
  readonly claims: ClaimsBy;
  /** Whose reports these are. */
  readonly agency: Agency;
  /** Whether the settings name a mail server. */
  readonly sendsMail: boolean;
  /** Who has to end what is under way about properties, by their identifiers, before they may count as put away. */
  readonly whenPutAway: Set<(ids: readonly string[]) => Promise<void>>;
  /** Tells that something changed: `change` with what did (`Changed`), `job` with a job's id, `access` with the person whose access did. */
  readonly events: EventEmitter;
}

/** What changed, as far as those who show it have to know. */
export interface Changed {
  /** The kind of a happening by its first word (`claim`); null where it has no line in the journal. */
  readonly kind: string | null;
  /** The properties that it is about, by identifier. */
  readonly properties: readonly string[];
}

/** Tells those who listen that something changed. */
export function tellChange({ events }: Pick<Desk, 'events'>, changed: Changed): void {
  events.emit('change', changed);
}

/** Who asks for it; null is the service itself. */
export interface Actor {
  readonly personId: string | null;
}

/** The present, as it is stored and sent. */
export function nowText(desk: Desk): string {
  return desk.clock.now().toISOString();
}

/** An engine's profile by its id, or by its title. Throws Problem: `no-such-engine` lists those there are. */
export function profileOf(desk: Desk, engine: string): EngineProfile {
  const id = engineIdOf(desk, engine);
  const profile = desk.book.profiles.get(id);
  if (profile) return profile;
  const borrowing = desk.book.borrowed.get(id);
  if (borrowing) {
    const from = desk.book.titleOf(borrowing.worked.from);
    throw new Problem('borrowed-results', { engine: borrowing.title, from });
  }
  throw new Problem('no-such-profile', { engine });
}

/** How an engine is worked under an account. Throws Problem when its profile is gone. */
export function engineUnder(desk: Desk, account: AccountRow): Engine {
  const engine = desk.book.engineFor(account);
  if (engine) return engine;
  throw new Problem('no-such-profile', { engine: account.engine });
}

/** How the engine of an enrolment is worked, under the enrolment's account. */
export async function engineOf(desk: Desk, enrolment: EnrolmentRow): Promise<Engine> {
  return engineUnder(desk, await AccountRow.findByPk(enrolment.accountId, { rejectOnEmpty: true }));
}

/** Waits until nothing is under way any more about properties that were put away. */
export async function endedAbout(desk: Desk, ids: readonly string[]): Promise<void> {
  await Promise.all([...desk.whenPutAway].map((end) => end(ids)));
}
