import type { Method } from '../profile/profile.js';

export type Badge = 'bare' | 'issued' | 'in-place' | 'held' | 'slipping' | 'lost';
export const BADGES: readonly Badge[] = ['bare', 'issued', 'in-place', 'held', 'slipping', 'lost'];

/** What is on record for one enrolment, as far as its badge needs it. */
export interface StandingFacts {
  readonly tokenKnown: boolean;
  /** The newest check of each method. */
  readonly checks: readonly { readonly method: Method; readonly seen: boolean; readonly at: Date }[];
  /** The newest word of the engine about ownership, if there is one: confirmed, or withdrawn afterwards. */
  readonly ownership: OwnershipFact | null;
}

export type OwnershipFact =
  | { readonly kind: 'confirmed'; readonly method: Method; readonly at: Date }
  | { readonly kind: 'withdrawn'; readonly at: Date; readonly reason: string };

/**
 * The standing of an enrolment's ownership, derived from what is recorded.
 * @example standing({ tokenKnown: true, checks: [], ownership: null }) === 'issued'
 */
export function standing(facts: StandingFacts): Badge {
  const { ownership } = facts;
  if (ownership?.kind === 'withdrawn') return 'lost';
  if (ownership?.kind === 'confirmed') {
    // A look that is older than the confirmation says nothing against it.
    const newest = facts.checks.find(
      (check) => check.method === ownership.method && check.at >= ownership.at,
    );
    return newest && !newest.seen ? 'slipping' : 'held';
  }
  if (facts.checks.some((check) => check.seen)) return 'in-place';
  return facts.tokenKnown ? 'issued' : 'bare';
}
