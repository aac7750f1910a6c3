import type { Method } from '../profile/profile.js';

/** What an engine says of the ownership of a site. */
export type OwnershipTold =
  | { readonly state: 'none' }
  /** Times in RFC 3339. */
  | {
      readonly state: 'held';
      readonly since: string;
      readonly method: Method | null;
      /** When the engine looked for the token last, where it says so. */
      readonly lookedAt?: string | null;
    }
  | { readonly state: 'withdrawn'; readonly since: string; readonly reason: string };

/** What an engine’s word about ownership can be on record as. */
export const OWNERSHIP_KINDS = ['confirmed', 'withdrawn'] as const;

/** The newest word about it that is on record. */
export interface OwnershipOnRecord {
  readonly kind: (typeof OWNERSHIP_KINDS)[number];
  readonly at: string;
}

/** What is to be recorded of it. */
export type OwnershipChange =
  | { readonly kind: 'withdrawn'; readonly at: string; readonly reason: string; readonly isSaid: boolean }
  | { readonly kind: 'confirmed'; readonly at: string; readonly method: Method | null };

/** What stands as the reason where an engine simply knows of no ownership any more. */
export const NO_OWNERSHIP = 'the engine knows of no ownership any more';

/**
 * What an engine's answer changes in what is on record. A badge that was confirmed is lost when the engine withdrew it or
 * knows nothing of it any more; one that is not on record as confirmed is won by a word that is newer than the record.
 * @param now in RFC 3339: when an ownership of which an engine knows nothing any more counts as lost
 * @returns null where the answer is no news
 */
export function ownershipChange(
  recorded: OwnershipOnRecord | null,
  told: OwnershipTold,
  now: string,
): OwnershipChange | null {
  if (recorded?.kind === 'confirmed') {
    if (told.state === 'withdrawn')
      return { kind: 'withdrawn', at: told.since, reason: told.reason, isSaid: true };
    return told.state === 'none' ? { kind: 'withdrawn', at: now, reason: NO_OWNERSHIP, isSaid: false } : null;
  }
  return told.state === 'held' && told.since > (recorded?.at ?? '')
    ? { kind: 'confirmed', at: told.since, method: told.method }
    : null;
}
