import type { ReachFailure } from './probe/evidence.js';
import type { Finding } from '../findings/finding.js';

/**
 * What a look at a placement amounts to: the token was seen; it is gone, since the place was reached and does not show it; or the
 * look failed, so that nothing is known of the token.
 */
export const VISIBILITIES = ['seen', 'gone', 'unclear'] as const;
export type Visibility = (typeof VISIBILITIES)[number];

/** What stood in the way of a look that failed: the site, its names, its certificate, a wall against us, or our own means. */
export const HINDRANCES = ['site', 'names', 'certificate', 'wall', 'means'] as const;
export type Hindrance = (typeof HINDRANCES)[number];

/**
 * Findings after which nobody knows whether the token stands. What redirects away is none of them: the place was reached, and
 * shows something else from now on.
 */
const HINDERED: Readonly<Record<string, Hindrance>> = {
  'reach.name-missing': 'names',
  'reach.no-address': 'names',
  'reach.resolver-fails': 'names',
  'dns.server-fails': 'names',
  'dns.no-answer': 'names',
  'reach.refused': 'site',
  'reach.unreachable': 'site',
  'reach.timed-out': 'site',
  'reach.cut': 'site',
  'reach.not-http': 'site',
  'reach.headers-too-large': 'site',
  'reach.server-error': 'site',
  'reach.odd-status': 'site',
  'reach.tls-expired': 'certificate',
  'reach.tls-name': 'certificate',
  'reach.tls-failed': 'certificate',
  'reach.tls-self-signed': 'certificate',
  'reach.tls-chain': 'certificate',
  'reach.tls-untrusted': 'certificate',
  'reach.denied': 'wall',
  'reach.rate-limited': 'wall',
  'reach.bot-wall': 'wall',
  'reach.guarded': 'means',
  'reach.too-heavy': 'means',
};

/** What stood in the way of a look; null where it came as far as the place. */
export function hindranceOf(findings: readonly Pick<Finding, 'code' | 'grade'>[]): Hindrance | null {
  const first = findings.find(({ grade, code }) => grade === 'stops' || HINDERED[code] !== undefined);
  return (first && HINDERED[first.code]) ?? null;
}

/** What a look amounts to. One that did not come as far as the place says nothing against the token. */
export function sightOf(look: {
  readonly seen: boolean;
  readonly findings: readonly Pick<Finding, 'code' | 'grade'>[];
}): Visibility {
  if (look.seen) return 'seen';
  return hindranceOf(look.findings) === null ? 'gone' : 'unclear';
}

/** Failures that may be ours: where they meet many places at once, it is we who cannot look. */
const OUT_OF_REACH: readonly ReachFailure[] = ['resolver-fails', 'timed-out', 'unreachable'];
const OURS: ReadonlySet<string> = new Set([
  ...OUT_OF_REACH.map((failure) => `reach.${failure}`),
  'dns.no-answer',
  'dns.server-fails',
]);

export function isOutOfReach(failure: ReachFailure | null): boolean {
  return failure !== null && OUT_OF_REACH.includes(failure);
}

/** Whether a look failed in a way that may be ours. */
export function mayBeOurs(findings: readonly Pick<Finding, 'code' | 'evidence'>[]): boolean {
  return findings.some(
    ({ code, evidence }) => OURS.has(code) || OUT_OF_REACH.some((failure) => failure === evidence['failure']),
  );
}
