import type { Hindrance } from '../badge/visibility.js';
import type { Badge } from '../badge/standing.js';
import type { Method } from '../profile/profile.js';
import { DAY } from '../time/duration.js';
import type { Acts } from '../worklist/kinds.js';

/** What is told at once, the worst first; the rest waits for the digest of the day. */
const AT_ONCE = [
  'lost',
  'slipping',
  'enrolment-lost',
  'moved',
  'stays-away',
  'out-of-reach',
  'sitemap-unreachable',
  'sitemap-fallen',
  'server-down',
  'cut-off',
] as const;

/** What people are told of without having asked, the worst first. */
export const ALERT_KINDS = [
  ...AT_ONCE,
  'certificate',
  'name-ends',
  'token-ends',
  'reading-overdue',
  'sitemap-still',
  'switched-off',
  'unsent',
] as const;
export type AlertKind = (typeof ALERT_KINDS)[number];

/** What has been so for longer than this when we come to know of it is no news that has to be told at once. */
const OLD_NEWS = 3 * DAY;

/** Whether a case is told at once, or with the digest. @param now when it is opened */
export function isUrgent({ kind, since }: Pick<AlertNow, 'kind' | 'since'>, now: Date): boolean {
  return AT_ONCE.some((one) => one === kind) && now.getTime() - since.getTime() < OLD_NEWS;
}

/** One cause, with what it touches. */
export interface AlertNow {
  readonly kind: AlertKind;
  /** Tells causes of one kind apart; the same as long as it is the same cause. */
  readonly cause: string;
  readonly since: Date;
  readonly says: string;
  /** What is to be done, as it can be sent on; empty where nothing is. */
  readonly remedy: string;
  readonly acts: Acts;
  /** Names of enrolments, or addresses of sitemaps. */
  readonly touches: readonly string[];
  /** When the engine may act, where that can be told. */
  readonly until: Date | null;
  /** The last good evidence beside the present one, line by line; empty where that tells nothing. */
  readonly difference?: readonly string[];
  /** Where a website is out of reach: its address, or the names of its name servers where they do not answer. */
  readonly place?: string;
}

/** An enrolment, as far as it can be told of. */
export interface AlertEnrolment {
  readonly name: string;
  readonly engine: string;
  readonly badge: Badge;
  readonly badgeSince: Date;
  /** By which method the badge is held, or was. */
  readonly method: Method | null;
  /** The newest look at its placement; null where there was none. */
  readonly look: {
    readonly at: Date;
    /** Since when each look has come as far as the place and seen the token; null where the last did not. */
    readonly wellSince: Date | null;
    /** Since when looks have told what they tell of the token. */
    readonly since: Date;
    readonly says: string;
    readonly remedy: string;
    readonly hindered: {
      readonly by: Hindrance;
      readonly since: Date;
      readonly place: string | null;
    } | null;
    /** What has changed since the token was last seen, and when that was; null where nobody knows. */
    readonly difference: readonly string[];
    readonly lastSeenAt: Date | null;
  } | null;
  /** How long the engine needs to notice and to act; null where nobody knows. */
  readonly actsWithin: { readonly looksEvery: number; readonly grace: number } | null;
  /** When the engine looked last by what it says; null where it does not say. */
  readonly engineLookedAt: Date | null;
  /** Why the engine withdrew the badge, in its own words. */
  readonly reason: string | null;
  readonly missingSince: Date | null;
  readonly tokenExpiresAt: Date | null;
}

/** What was found, what is to be done about it, and since when it has been so. */
export interface Told {
  readonly says: string;
  readonly remedy: string;
  readonly since: Date;
}

export interface AlertSitemap {
  readonly url: string;
  readonly unreachable: (Told & { readonly at: Date }) | null;
  readonly fell: Told | null;
  readonly still: Told | null;
  /** Engines that have not read it in time. */
  readonly overdueAt: readonly { readonly engine: string; readonly since: Date }[];
}

/** Everything on record of a property that cases are made of. */
export interface AlertFacts {
  readonly now: Date;
  readonly handle: string;
  readonly enrolments: readonly AlertEnrolment[];
  readonly move: { readonly at: Date; readonly to: string; readonly says: string } | null;
  readonly away: readonly Told[];
  readonly certificate: readonly Told[];
  /** The registered name, and when it ends as its owner said; null where nobody said. */
  readonly nameEnds: { readonly name: string; readonly at: Date } | null;
  /** Whether the front door was not seen at the last look, so that what it showed before may still be so. */
  readonly doorUnseen: boolean;
  readonly sitemaps: readonly AlertSitemap[];
  /** The newest time in which nothing could be reached from here; `until` is null while it goes on. */
  readonly cutOff: { readonly since: Date; readonly until: Date | null } | null;
}

/** What is alike by some key, in the order in which it was met. */
export function groups<T, Key extends string>(all: readonly T[], keyOf: (one: T) => Key): [Key, T[]][] {
  const found = new Map<Key, T[]>();
  for (const one of all) found.set(keyOf(one), [...(found.get(keyOf(one)) ?? []), one]);
  return [...found];
}

/** The first of some times; an invalid date where there is none. */
export function earliest(times: readonly Date[]): Date {
  return new Date(times.length === 0 ? NaN : Math.min(...times.map((time) => time.getTime())));
}
