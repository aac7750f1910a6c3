import type { Hindrance } from '../badge/visibility.js';
import type { Badge } from '../badge/standing.js';
import type { Forecast } from '../badge/judge/judge.js';
import type { Method } from '../profile/profile.js';
import type { CountState } from '../sitemap/comparison.js';
import type { SitemapState } from '../sitemap/reading.js';
import type { Acts, StepKind } from './kinds.js';
import type { NextStep } from './step.js';

/** What is on record for one enrolment, as far as its next step needs it. */
export interface StepFacts {
  readonly engineTitle: string;
  /** Whether a person carries everything to and from the engine. */
  readonly byHand: boolean;
  /** Since when the engine does not know the enrolment any more; null while it does. */
  readonly missingSince: Date | null;
  /** When the token in force is void if nobody claims with it; null where it lasts. */
  readonly tokenExpiresAt: Date | null;
  /** What the engine has switched off, and until when. */
  readonly suspended: readonly { readonly work: string; readonly until: Date; readonly since: Date }[];
  /** When it was to be ended at an engine that is worked by hand, which nobody has said that it was; null where it is to stay. */
  readonly endAsked: Date | null;
  readonly badge: Badge;
  readonly badgeSince: Date;
  /** The methods whose token is known, the best first. */
  readonly methods: readonly Method[];
  /** Those whose token we can publish ourselves, since its target is on record. */
  readonly carried: readonly Method[];
  /** The method by which the badge is held; null where it is not, or where that is not known. */
  readonly heldBy: Method | null;
  /** The newest look at any placement. */
  readonly lastCheck: {
    readonly at: Date;
    readonly forecast: Forecast;
    readonly visibleAt: Date | null;
    readonly says: string | null;
    /** Whether something was placed there, rightly or not. */
    readonly tried: boolean;
    /** What stood in the way of the look, and since when nothing was seen; null where it came as far as the place. */
    readonly hindered: { readonly by: Hindrance; readonly says: string; readonly since: Date } | null;
  } | null;
  /** A claim that was sent and whose answer is not known. */
  readonly openClaim: Date | null;
  readonly refusal: { readonly at: Date; readonly reason: string } | null;
  readonly takesSitemaps: boolean;
  /** Whether it is for a variant that only leads elsewhere, so that nothing more is to be done with it. */
  readonly leadsOnly: boolean;
  /** The sitemaps that it covers. */
  readonly sitemaps: readonly {
    readonly url: string;
    readonly state: SitemapState;
    /** The worst that our reading found; null where it found nothing to mend. */
    readonly worst: string | null;
    readonly submitted: boolean;
    /** Whether it was taken back everywhere, so that nobody reads it any more. */
    readonly withdrawn: boolean;
    readonly counts: CountState | null;
    readonly dueBy: Date | null;
    readonly since: Date;
    /** The sitemap beside which its submission by this enrolment is one too many; null where it is not. */
    readonly tooManyBy: string | null;
    /** Since when the engine's count has been unlike ours. */
    readonly apartSince: Date | null;
  }[];
}

/** A step before the engine's name is put into its words. */
export type Wanted = Pick<NextStep, 'kind' | 'template' | 'since' | 'until'> & { acts?: Acts };

/** Makes a step; since the badge is what it is, and without an end, where nothing else is said. */
export type MakeStep = (
  kind: StepKind,
  template: string,
  from?: Date,
  until?: Date | null,
  acts?: Acts,
) => Wanted;
