import { randomBytes } from 'node:crypto';
import { HOUSE_TOKEN_BYTES, houseToken } from '../core/badge/token/house-token.js';
import type { Judgement } from '../core/badge/judge/judge.js';
import { durationMs } from '../core/time/duration.js';
import type { Clock } from '../core/time/clock.js';
import type { EngineProfile, Method } from '../core/profile/profile.js';
import type { Placement } from '../core/badge/placement.js';
import type {
  ClaimRequest,
  Engine,
  EnrolledAt,
  EnrolmentAtEngine,
  EnrolRequest,
  Holder,
  IssuedToken,
  Lookup,
  Outcome,
  Ownership,
  SitemapAtEngine,
  Verdict,
} from './engine.js';

function done<T>(value: T): Outcome<T> {
  return { kind: 'done', value };
}

const NO_SITEMAPS: Outcome<never> = {
  kind: 'refused',
  code: 'no-sitemaps',
  says: 'The house takes no sitemaps.',
};

const LISTS_NOTHING: Outcome<never> = {
  kind: 'refused',
  code: 'lists-nothing',
  says: 'The house lists no pages.',
};

/**
 * The agency as an engine: it issues the token itself, and a claim is decided by our own check.
 * @param look checks a placement now
 * @param profile says how long a token lives unclaimed
 */
export class HouseEngine implements Engine {
  constructor(
    private readonly profile: EngineProfile,
    private readonly clock: Clock,
    private readonly look: (placement: Placement) => Promise<Judgement>,
  ) {}

  enrol({ key }: EnrolRequest): Promise<Outcome<EnrolledAt>> {
    return Promise.resolve(done({ ref: `house-${key}` }));
  }

  list(): Promise<Outcome<readonly EnrolmentAtEngine[]>> {
    return Promise.resolve(done([]));
  }

  /** Nobody but the agency holds anything at the house. */
  holders(): Promise<Outcome<readonly Holder[]>> {
    return Promise.resolve(done([]));
  }

  drop(): Promise<Outcome<null>> {
    return Promise.resolve(done(null));
  }

  token(_ref: string, _method: Method, current: IssuedToken | null): Promise<Outcome<IssuedToken>> {
    if (current) return Promise.resolve(done(current));
    const lives = this.profile.token.livesUnclaimed;
    const expiresAt =
      lives === undefined ? null : new Date(this.clock.now().getTime() + durationMs(lives)).toISOString();
    return Promise.resolve(done({ value: houseToken(randomBytes(HOUSE_TOKEN_BYTES)), expiresAt }));
  }

  async claim(request: ClaimRequest): Promise<Outcome<Verdict>> {
    const judgement = await this.look(request.placement);
    if (judgement.forecast === 'accept') return done({ kind: 'confirmed' });
    const reason = judgement.findings.find((one) => one.grade === 'stops')?.says ?? 'The token was not seen.';
    if (judgement.forecast === 'unsure') return { kind: 'unreached', says: reason };
    return done({ kind: 'refused', reason });
  }

  /** Nothing of a claim is kept outside the record that asks, so one that was cut short never happened. */
  claimed(): Promise<Outcome<Verdict | null>> {
    return Promise.resolve(done(null));
  }

  ownership(): Promise<Outcome<Ownership | null>> {
    return Promise.resolve(done(null));
  }

  submitSitemap(): Promise<Outcome<{ ref: string }>> {
    return Promise.resolve(NO_SITEMAPS);
  }

  sitemaps(): Promise<Outcome<readonly SitemapAtEngine[]>> {
    return Promise.resolve(done([]));
  }

  withdrawSitemap(): Promise<Outcome<null>> {
    return Promise.resolve(NO_SITEMAPS);
  }

  ping(): Promise<Outcome<null>> {
    return Promise.resolve(NO_SITEMAPS);
  }

  lookup(): Promise<Outcome<Lookup>> {
    return Promise.resolve(LISTS_NOTHING);
  }

  visit(): Promise<Outcome<null>> {
    return Promise.resolve(LISTS_NOTHING);
  }
}
