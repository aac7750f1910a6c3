import type { Method } from '../profile/profile.js';
import { standing, type Badge, type OwnershipFact, type ToldOfToken } from './standing.js';

/** Everything that is on record of an enrolment's ownership, over all of its time. */
export interface StandingHistory {
  readonly enrolledAt: Date;
  readonly endedAt: Date | null;
  readonly tokens: readonly {
    readonly id: string;
    readonly method: Method;
    readonly issuedAt: Date;
    readonly replacedAt: Date | null;
  }[];
  /** Looks as stretches: the first and the last that said so. */
  readonly checks: readonly {
    readonly tokenId: string;
    readonly method: Method;
    readonly told: ToldOfToken | null;
    readonly firstAt: Date;
    readonly at: Date;
    readonly toldSince: Date;
  }[];
  /** The engine's words. */
  readonly ownerships: readonly OwnershipFact[];
}

/** How long an enrolment had a badge; `until` is null for the one that it has now. */
export interface BadgeInterval {
  readonly badge: Badge;
  readonly from: Date;
  readonly until: Date | null;
}

/**
 * The badges that an enrolment has had, one after the other: what `standing` says of the records as they were at each time at which
 * something was recorded.
 */
export function badgeIntervals(history: StandingHistory): BadgeInterval[] {
  const { enrolledAt, endedAt, tokens, checks, ownerships } = history;
  const times = [
    enrolledAt,
    ...tokens.flatMap((one) => [one.issuedAt, one.replacedAt]),
    ...checks.flatMap((one) => [one.firstAt, one.at]),
    ...ownerships.map(({ at }) => at),
  ]
    .flatMap((time) => (time === null ? [] : [time.getTime()]))
    .filter((time) => time >= enrolledAt.getTime() && (endedAt === null || time <= endedAt.getTime()));
  const intervals: { badge: Badge; from: Date; until: Date | null }[] = [];
  for (const time of [...new Set(times)].sort((a, b) => a - b)) {
    const badge = badgeAt(history, time);
    const last = intervals.at(-1);
    if (last?.badge === badge) continue;
    const from = new Date(time);
    if (last) last.until = from;
    intervals.push({ badge, from, until: null });
  }
  const last = intervals.at(-1);
  if (last) last.until = endedAt;
  return intervals;
}

/** The badge by what was on record at a time. */
function badgeAt({ enrolledAt, tokens, checks, ownerships }: StandingHistory, time: number): Badge {
  const inForce = tokens.filter(
    ({ issuedAt, replacedAt }) =>
      issuedAt.getTime() <= time && (replacedAt === null || replacedAt.getTime() > time),
  );
  const newest = inForce.flatMap(({ id }) => {
    const begun = checks.filter((one) => one.tokenId === id && one.firstAt.getTime() <= time);
    const [last] = begun.sort((a, b) => b.firstAt.getTime() - a.firstAt.getTime());
    return last
      ? [
          {
            method: last.method,
            told: last.told,
            at: new Date(Math.min(last.at.getTime(), time)),
            since: last.toldSince,
          },
        ]
      : [];
  });
  const [word = null] = ownerships
    .filter(({ at }) => at.getTime() <= time)
    .sort((a, b) => b.at.getTime() - a.at.getTime());
  const [first] = inForce;
  return standing({ enrolledAt, tokenAt: first?.issuedAt ?? null, checks: newest, ownership: word }).badge;
}
