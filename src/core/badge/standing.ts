import type { Method } from '../profile/profile.js';

export const BADGES = ['bare', 'issued', 'in-place', 'held', 'slipping', 'lost'] as const;
export type Badge = (typeof BADGES)[number];

/** What is on record for one enrolment, as far as its badge needs it. */
export interface StandingFacts {
  readonly enrolledAt: Date;
  /** When the token in force was issued; null while there is none. */
  readonly tokenAt: Date | null;
  /** The newest check of each method. */
  readonly checks: readonly {
    readonly method: Method;
    /** What the newest look told that came as far as the place; null where none ever did. */
    readonly told: ToldOfToken | null;
    readonly at: Date;
    /** Since when looks have told this. */
    readonly since: Date;
  }[];
  /** The newest word of the engine about ownership, if there is one: confirmed, or withdrawn afterwards. */
  readonly ownership: OwnershipFact | null;
}

/** What looks tell of a token: whether it stands. One that failed tells nothing. */
export const TOLD_OF_TOKEN = ['seen', 'gone'] as const;
export type ToldOfToken = (typeof TOLD_OF_TOKEN)[number];

export type OwnershipFact =
  | { readonly kind: 'confirmed'; readonly method: Method; readonly at: Date }
  | { readonly kind: 'withdrawn'; readonly at: Date; readonly reason: string };

export interface Standing {
  readonly badge: Badge;
  /** Since when it has been so. */
  readonly since: Date;
}

/**
 * The standing of an enrolment's ownership, derived from what is recorded.
 * @example standing({ enrolledAt, tokenAt, checks: [], ownership: null }) → { badge: 'issued', since: tokenAt }
 */
export function standing(facts: StandingFacts): Standing {
  const { ownership } = facts;
  if (ownership?.kind === 'withdrawn') return { badge: 'lost', since: ownership.at };
  if (ownership?.kind === 'confirmed') {
    // A look that is older than the confirmation says nothing against it, and one that failed nothing at all.
    const newest = facts.checks.find((check) => check.method === ownership.method && check.at > ownership.at);
    return newest?.told === 'gone'
      ? { badge: 'slipping', since: newest.since }
      : { badge: 'held', since: ownership.at };
  }
  const seen = facts.checks.find(({ told }) => told === 'seen');
  if (seen) return { badge: 'in-place', since: seen.since };
  return facts.tokenAt
    ? { badge: 'issued', since: facts.tokenAt }
    : { badge: 'bare', since: facts.enrolledAt };
}

/** How far each badge is on the way to a held one. */
const ON_THE_WAY: readonly Badge[] = ['bare', 'lost', 'issued', 'in-place', 'slipping', 'held'];

/** Of several badges at an engine the one that is furthest; null of none. */
export function bestBadge(badges: readonly Badge[]): Badge | null {
  return badges.reduce<Badge | null>(
    (best, one) => (best === null || ON_THE_WAY.indexOf(one) > ON_THE_WAY.indexOf(best) ? one : best),
    null,
  );
}
