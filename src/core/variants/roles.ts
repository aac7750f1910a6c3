import { addressForPeople, addressText, parseAddress, type WebAddress } from '../address/web-address.js';
import type { ReachFailure } from '../badge/probe/evidence.js';
import type { StepKind, VariantSeen } from './follow.js';
import { variantOf, type VariantWhy } from './to-try.js';

/** What a variant is to its property. */
export const ROLES = [
  'front-door',
  'answers',
  'leads',
  'elsewhere',
  'framed',
  'closed',
  'dark',
  'broken-certificate',
] as const;
export type Role = (typeof ROLES)[number];

/** A variant with its role, and how it came to be looked at. */
export interface VariantRole {
  readonly address: string;
  readonly why: VariantWhy;
  readonly role: Role;
  /** RFC 3339: since when it has been that; absent where nobody kept it. */
  readonly since?: string;
}

/** The same with what the role rests on. */
export interface VariantJudged extends VariantRole {
  /** The weakest way on its way to the front door: what is weak anywhere is weak as a whole. */
  readonly via: StepKind | null;
  /** The variant where it ends; null where it does not end at a page. */
  readonly endsAt: string | null;
  readonly says: string;
  readonly seen: VariantSeen;
}

const WEAKEST: readonly StepKind[] = ['script', 'refresh', 'temporary', 'permanent'];
const WAYS: Readonly<Record<StepKind, string>> = {
  permanent: 'permanently',
  temporary: 'by a temporary redirect',
  refresh: 'by a meta refresh',
  script: 'by a script',
};
const FAILURES: Readonly<Record<string, string>> = {
  'name-missing': 'the name does not exist',
  'no-address': 'the name has no address record',
  'resolver-fails': 'the name could not be looked up',
  refused: 'connections are refused',
  unreachable: 'no way leads to the server',
  'timed-out': 'no answer in time',
  cut: 'the connection was cut',
  guarded: 'it has a private address',
  'tls-expired': 'the certificate has expired',
  'tls-name': 'the certificate is for other names',
  'tls-self-signed': 'the certificate is signed by itself',
  'tls-chain': 'the certificate’s chain is incomplete',
  'tls-untrusted': 'nobody knows the certificate’s authority',
  'tls-failed': 'no secure connection comes about',
  'headers-too-large': 'its headers are too large',
  'not-http': 'what answers speaks no HTTP',
};

/** Why an address could not be reached, in words. */
export function failureSays(failure: ReachFailure | null): string {
  return FAILURES[failure ?? ''] ?? 'it does not answer';
}

/** Statuses by which a visitor is kept out, though somebody is there. */
const CLOSED = new Set([401, 403, 407, 429]);

/**
 * What a variant is to its property.
 * @param door the front door; null where there is none
 * @param path the property's path
 */
export function roleOf(seen: VariantSeen, door: WebAddress | null, path: string): VariantJudged {
  const own = { address: seen.address, why: seen.why, seen };
  const via = WEAKEST.find((kind) => seen.steps.some((step) => step.kind === kind)) ?? null;
  if (seen.end === 'failed') {
    const isBroken = seen.failure?.startsWith('tls') === true;
    const behind = seen.steps.length > 0 ? ` at ${shown(seen.endsAt)}` : '';
    const says = `${failureSays(seen.failure)}${behind}`;
    return { ...own, role: isBroken ? 'broken-certificate' : 'dark', via, endsAt: null, says };
  }
  if (seen.end === 'loop')
    return { ...own, role: 'dark', via, endsAt: null, says: 'its redirects lead round in a circle' };
  if (seen.end === 'too-many-hops')
    return { ...own, role: 'dark', via, endsAt: null, says: 'it redirects without end' };
  const status = seen.status ?? 0;
  const behind = seen.steps.length > 0 ? `, at ${shown(seen.endsAt)}` : '';
  if (CLOSED.has(status))
    return { ...own, role: 'closed', via, endsAt: null, says: `answers ${String(status)}${behind}` };
  if (status !== 200)
    return { ...own, role: 'dark', via, endsAt: null, says: `answers ${String(status)}${behind}` };
  const end = addressText(variantOf(seen.endsAt, path));
  const isDoor = door !== null && end === addressText(door);
  const frame = seen.page?.frame;
  if (end === seen.address) {
    if (frame != null)
      return { ...own, role: 'framed', via: null, endsAt: end, says: `only a frame around ${shown(frame)}` };
    return isDoor
      ? { ...own, role: 'front-door', via: null, endsAt: end, says: 'where visitors end up' }
      : { ...own, role: 'answers', via: null, endsAt: end, says: 'answers by itself' };
  }
  const way = via === null ? '' : ` ${WAYS[via]}`;
  return isDoor
    ? { ...own, role: 'leads', via, endsAt: end, says: `leads to the front door${way}` }
    : { ...own, role: 'elsewhere', via, endsAt: end, says: `leads${way} to ${shown(end)}` };
}

/**
 * Whether visitors use a variant, so that a badge should cover it: the front door, and what answers by itself under an
 * address that belongs to the property. A host that was only met on the way (a sign-in, say) is none.
 */
export function isUsed({ role, why }: VariantRole): boolean {
  return role === 'front-door' || ((role === 'answers' || role === 'framed') && why !== 'redirect');
}

function shown(url: string): string {
  try {
    const { pathname, search } = new URL(url);
    return pathname.endsWith('/') && search === '' ? addressForPeople(parseAddress(url)) : url;
  } catch {
    return url;
  }
}
