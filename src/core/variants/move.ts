import { registrableOf } from '../address/host.js';
import { covers } from '../address/reach.js';
import { addressForPeople, addressText, type WebAddress } from '../address/web-address.js';
import type { Method } from '../profile/profile.js';
import { isHeld, type Covering } from './cover.js';

/** What changed when the front door became another address. */
export type MoveKind = 'to-https' | 'to-http' | 'to-www' | 'to-bare' | 'new-host' | 'new-domain' | 'new-path';

const WORDS: Readonly<Record<MoveKind, string>> = {
  'to-https': 'http to https',
  'to-http': 'https to http',
  'to-www': 'the bare name to www',
  'to-bare': 'www to the bare name',
  'new-host': 'one host to another',
  'new-domain': 'one domain to another',
  'new-path': 'one folder to another',
};

/** What changed from one front door to the next; empty where it is the same. */
export function moveKinds(from: WebAddress, to: WebAddress): MoveKind[] {
  return [
    ...(from.scheme === to.scheme
      ? []
      : [to.scheme === 'https' ? ('to-https' as const) : ('to-http' as const)]),
    ...hostMove(from.host, to.host),
    ...(from.path === to.path ? [] : (['new-path'] as const)),
  ];
}

function hostMove(from: string, to: string): MoveKind[] {
  if (from === to) return [];
  if (to === `www.${from}`) return ['to-www'];
  if (from === `www.${to}`) return ['to-bare'];
  return [registrableOf(from) === registrableOf(to) ? 'new-host' : 'new-domain'];
}

/** A move as a sentence. */
export function sayMove(from: WebAddress, to: WebAddress): string {
  const what = moveKinds(from, to).map((kind) => WORDS[kind]);
  return `The front door moved from ${addressForPeople(from)} to ${addressForPeople(to)} (${what.join(', ')}).`;
}

/** What is on record at one engine, as far as a move makes work there. */
export interface MoveGround {
  readonly engine: string;
  readonly enrolments: readonly (Covering & { readonly methods: readonly Method[] })[];
  readonly takesSitemaps: boolean;
  /** Addresses of the sitemaps that the engine was told of. */
  readonly submitted: readonly string[];
}

export const FOLLOWING_KINDS = ['enrol', 'prove', 'submit'] as const;
export type FollowingKind = (typeof FOLLOWING_KINDS)[number];

/** One thing that a move makes necessary at an engine. */
export interface Following {
  readonly kind: FollowingKind;
  readonly says: string;
  readonly done: boolean;
}

/**
 * What follows from a move at one engine, in the order in which it is done: enrol the new variant, have the token stand
 * there and claim, submit its sitemap. Nothing where the engine was never worked with.
 */
export function followingOf(
  to: WebAddress,
  { engine, enrolments, takesSitemaps, submitted }: MoveGround,
): Following[] {
  if (enrolments.length === 0) return [];
  const url = addressText(to);
  const where = addressForPeople(to);
  const over = enrolments.filter(({ target }) => covers(target, url));
  const held = over.some(isHeld);
  const byName = over.some(({ target }) => target.reach === 'name');
  const methods = [...new Set(over.flatMap((one) => one.methods))].join(', ');
  return [
    {
      kind: 'enrol',
      says: byName
        ? `Nothing to enrol at ${engine}: the name covers ${where} too.`
        : `Enrol ${where} at ${engine}.`,
      done: over.length > 0,
    },
    {
      kind: 'prove',
      says: `Have the token for ${engine} stand at ${where} too${methods === '' ? '' : ` (${methods})`}, and claim.`,
      done: held,
    },
    ...(takesSitemaps
      ? [
          {
            kind: 'submit' as const,
            says: `Submit the sitemap of ${where} to ${engine}.`,
            done: submitted.some((one) => covers({ reach: 'address', address: to }, one)),
          },
        ]
      : []),
  ];
}
