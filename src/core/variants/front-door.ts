import { registrableOf } from '../address/host.js';
import { addressText, parseAddress, type WebAddress } from '../address/web-address.js';
import { isSameThing } from './fingerprint.js';
import type { VariantSeen } from './follow.js';
import { variantOf } from './to-try.js';

/** Where visitors end up: at an address, away at another domain, or nowhere. */
export type FrontDoor =
  | { readonly kind: 'found'; readonly address: WebAddress }
  | { readonly kind: 'elsewhere'; readonly url: string }
  | { readonly kind: 'dark' };

/** Failures that may pass, so that what is behind them is not gone. */
const MAY_PASS = new Set<string>([
  'resolver-fails',
  'refused',
  'unreachable',
  'timed-out',
  'cut',
  'guarded',
  'headers-too-large',
  'not-http',
  'no-address',
]);

interface Candidate {
  readonly address: WebAddress;
  readonly text: string;
  /** The variants that end there. */
  readonly from: readonly VariantSeen[];
  readonly shown: VariantSeen;
}

/**
 * The front door of a property, from what was seen of its variants.
 *
 * What is known already stays, unless visitors are sent on from there (to another domain only where it says so for good)
 * or the page there names another variant as its canonical one: a front door that is dark for a while is no move. Else it is the variant that the pages name,
 * else the one where most of the usual variants end, else the one over https, else the one where the address ends that
 * was taken on.
 * @param former the front door so far; null at a first look
 */
export function frontDoorOf(
  takenOn: WebAddress,
  former: WebAddress | null,
  seen: readonly VariantSeen[],
): FrontDoor {
  const known = former && seen.find(({ address }) => address === addressText(former));
  if (former && known && stands(known, former)) {
    const named = canonicalDoor(known, seen, takenOn);
    return { kind: 'found', address: named ?? former };
  }
  const usual = seen.filter(({ why }) => why === 'usual' || why === 'taken-on');
  const candidates = endings(usual, takenOn.path);
  const own = candidates.filter(({ address }) => isOfProperty(address.host, takenOn, former));
  const best = [...own].sort(
    (a, b) =>
      namedBy(b, own) - namedBy(a, own) ||
      b.from.length - a.from.length ||
      Number(b.address.scheme === 'https') - Number(a.address.scheme === 'https') ||
      Number(endsThere(b, takenOn)) - Number(endsThere(a, takenOn)) ||
      a.text.localeCompare(b.text),
  )[0];
  if (best) return { kind: 'found', address: best.address };
  const away = candidates.sort((a, b) => b.from.length - a.from.length)[0];
  if (!away) return { kind: 'dark' };
  // A website that was known moves to another domain only where it says so for good.
  if (former && away.from.every(isForGood)) return { kind: 'found', address: away.address };
  return { kind: 'elsewhere', url: away.shown.endsAt };
}

/** Whether visitors still end up at what was the front door, or would once a trouble passes. */
function stands(seen: VariantSeen, former: WebAddress): boolean {
  if (seen.end === 'failed')
    return seen.failure === null || MAY_PASS.has(seen.failure) || seen.failure.startsWith('tls');
  if (seen.end !== 'page') return true;
  const end = variantOf(seen.endsAt, former.path);
  if (addressText(end) === seen.address) return true;
  // Away to another domain for a while is no move; within the own one visitors are there, whatever the redirect says.
  const isAway = registrableOf(end.host) !== registrableOf(former.host);
  return isAway && !isForGood(seen);
}

/** The variant that the page at the front door names as its canonical one, where it serves the same and answers by itself. */
function canonicalDoor(
  known: VariantSeen,
  seen: readonly VariantSeen[],
  takenOn: WebAddress,
): WebAddress | null {
  if (known.page?.canonical == null) return null;
  const named = variantOf(known.page.canonical, takenOn.path);
  const there = seen.find(({ address }) => address === addressText(named));
  const isSame =
    there?.steps.length === 0 && isSameThing(there.page?.fingerprint ?? null, known.page.fingerprint);
  return isSame ? named : null;
}

/** The variants at which others, or they themselves, end with a page. */
function endings(seen: readonly VariantSeen[], path: string): Candidate[] {
  const groups = new Map<string, VariantSeen[]>();
  for (const one of seen) {
    if (one.end !== 'page' || one.status !== 200) continue;
    const text = addressText(variantOf(one.endsAt, path));
    groups.set(text, [...(groups.get(text) ?? []), one]);
  }
  return [...groups].flatMap(([text, from]) => {
    const shown = from.find(({ address }) => address === text) ?? from[0];
    return shown ? [{ address: parseAddress(text), text, from, shown }] : [];
  });
}

function namedBy(candidate: Candidate, all: readonly Candidate[]): number {
  return all.filter(({ shown }) => {
    const canonical = shown.page?.canonical;
    return canonical != null && addressText(variantOf(canonical, candidate.address.path)) === candidate.text;
  }).length;
}

function isOfProperty(host: string, takenOn: WebAddress, former: WebAddress | null): boolean {
  const domain = registrableOf(host);
  return domain === registrableOf(takenOn.host) || (former !== null && domain === registrableOf(former.host));
}

function isForGood({ steps }: VariantSeen): boolean {
  return steps.every(({ kind }) => kind === 'permanent');
}

function endsThere({ from }: Candidate, takenOn: WebAddress): boolean {
  return from.some(({ address }) => address === addressText(takenOn));
}
