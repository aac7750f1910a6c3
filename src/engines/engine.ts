import type { Target } from '../core/address/reach.js';
import type { Placement } from '../core/badge/placement.js';
import type { Method } from '../core/profile/profile.js';

/**
 * What came of asking an engine for something.
 * `wait` is no failure: the engine asks for patience, until a time if it named one.
 */
export type Outcome<T> =
  | { readonly kind: 'done'; readonly value: T }
  | { readonly kind: 'refused'; readonly code: string; readonly says: string }
  | { readonly kind: 'wait'; readonly until: Date | null; readonly says: string }
  | { readonly kind: 'unreached'; readonly says: string };

export interface EnrolledAt {
  /** The engine's own identifier of the enrolment. */
  readonly ref: string;
}

export interface IssuedToken {
  readonly value: string;
  readonly expiresAt: string | null;
}

export type Verdict = { readonly kind: 'confirmed' } | { readonly kind: 'refused'; readonly reason: string };

export type Ownership =
  | { readonly state: 'none' }
  | { readonly state: 'held'; readonly since: string; readonly method: Method | null }
  | { readonly state: 'withdrawn'; readonly since: string; readonly reason: string };

export interface SitemapAtEngine {
  readonly ref: string;
  readonly address: string;
  readonly readAt: string | null;
  readonly found: number | null;
  readonly listed: number | null;
  readonly trouble: string | null;
}

export interface ClaimRequest {
  /** Chosen by us and kept before it is sent, so that the same claim can be asked about after a crash. */
  readonly claimId: string;
  readonly ref: string;
  readonly placement: Placement;
}

/** What every engine can be asked, however it is worked. */
export interface Engine {
  enrol(target: Target, key: string): Promise<Outcome<EnrolledAt>>;
  /** @param current the token in force, if there is one that has not expired */
  token(ref: string, method: Method, current: IssuedToken | null): Promise<Outcome<IssuedToken>>;
  claim(request: ClaimRequest): Promise<Outcome<Verdict>>;
  /** What became of a claim that was sent before; `null` when the engine never got it. */
  claimed(request: ClaimRequest): Promise<Outcome<Verdict | null>>;
  ownership(ref: string): Promise<Outcome<Ownership>>;
  submitSitemap(ref: string, address: string, key: string): Promise<Outcome<{ ref: string }>>;
  sitemaps(ref: string): Promise<Outcome<readonly SitemapAtEngine[]>>;
  withdrawSitemap(ref: string, sitemapRef: string): Promise<Outcome<null>>;
}
