import type { Scope } from '../core/address/reach.js';
import type { OwnershipTold } from '../core/badge/ownership.js';
import type { Placement } from '../core/badge/placement.js';
import type { Method } from '../core/profile/profile.js';

/**
 * What came of asking an engine for something.
 * `wait` is no failure: the engine asks for patience, until a time if it named one. `by-hand`: nobody but a person can
 * do it, on the engine's own pages.
 */
export type Outcome<T> =
  | { readonly kind: 'done'; readonly value: T }
  | { readonly kind: 'refused'; readonly code: string; readonly says: string }
  | { readonly kind: 'wait'; readonly until: Date | null; readonly says: string }
  | { readonly kind: 'unreached'; readonly says: string }
  | { readonly kind: 'by-hand'; readonly says: string };

/** What an engine can be asked for; each can be switched off by itself. */
export type Work = 'enrol' | 'list' | 'token' | 'claim' | 'ownership' | 'sitemaps' | 'lookup' | 'visit';

export interface EnrolRequest {
  readonly target: Scope;
  /** The same on every try of one enrolment, so that the engine enrols once. */
  readonly key: string;
  /** What the engine wants to know of the site, by the fact's id. */
  readonly facts: Readonly<Record<string, string>>;
  /** Whole address of a sitemap, for an engine that asks for one at registration. */
  readonly sitemap: string | null;
}

export interface EnrolledAt {
  /** The engine's own identifier of the enrolment. */
  readonly ref: string;
}

export interface IssuedToken {
  readonly value: string;
  readonly expiresAt: string | null;
}

export type Verdict = { readonly kind: 'confirmed' } | { readonly kind: 'refused'; readonly reason: string };

export type Ownership = OwnershipTold;

/** An enrolment as the engine has it. */
export interface EnrolmentAtEngine {
  readonly ref: string;
  readonly target: Scope;
  readonly ownership: Ownership;
}

/** Somebody who holds a site at an engine. */
export interface Holder {
  /** As the engine names the account. */
  readonly account: string;
  readonly since: string;
  readonly method: Method | null;
  /** Whether it is the account that asked. */
  readonly own: boolean;
}

/** What an engine says of one address. */
export interface Lookup {
  readonly listed: boolean;
  readonly visitedAt: string | null;
  readonly says: string | null;
}

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
  enrol(request: EnrolRequest): Promise<Outcome<EnrolledAt>>;
  /** Everything that is enrolled under the account. */
  list(): Promise<Outcome<readonly EnrolmentAtEngine[]>>;
  /** Ends an enrolment at the engine; one that is not there any more is no fault. */
  drop(ref: string): Promise<Outcome<null>>;
  /** @param current the token in force, if there is one that has not expired */
  token(ref: string, method: Method, current: IssuedToken | null): Promise<Outcome<IssuedToken>>;
  claim(request: ClaimRequest): Promise<Outcome<Verdict>>;
  /** What became of a claim that was sent before; `null` when the engine never got it. */
  claimed(request: ClaimRequest): Promise<Outcome<Verdict | null>>;
  /** `null` where what is recorded here is all that there is to know. */
  ownership(ref: string): Promise<Outcome<Ownership | null>>;
  /** Everybody who holds what is enrolled, under whatever account. */
  holders(ref: string): Promise<Outcome<readonly Holder[]>>;
  submitSitemap(ref: string, address: string, key: string): Promise<Outcome<{ ref: string }>>;
  sitemaps(ref: string): Promise<Outcome<readonly SitemapAtEngine[]>>;
  withdrawSitemap(ref: string, sitemapRef: string): Promise<Outcome<null>>;
  /** Tells that a sitemap that is known has changed (sitemaps.org protocol, "Submitting your Sitemap via an HTTP request"). */
  ping(address: string): Promise<Outcome<null>>;
  /** @param key the same on every try, so that the day's ration is spent once */
  lookup(ref: string, address: string, key: string): Promise<Outcome<Lookup>>;
  /** Asks for a visit to one address. */
  visit(ref: string, address: string, key: string): Promise<Outcome<null>>;
}
