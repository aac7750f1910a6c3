import { MINUTE } from '../time/duration.js';

/** What stands for a website that gave no answer at all. */
export const SILENCE = 'silence';

/** A look at a website, as far as it tells whether we can look at all. */
export interface Reached {
  readonly at: Date;
  /** The registrable name of what was looked at: several hosts of one website fail together. */
  readonly domain: string;
  /** The address that was dialled; null where it came to no dialling. */
  readonly address: string | null;
  /** What came in place of an answer that shows its website for sure: silence, or a mark of the page that came; null for such an answer. */
  readonly instead: string | null;
}

/** A time in which we cannot look: since when, and how it shows. */
export interface OutageSeen {
  readonly since: Date;
  /** Whether something answers in place of the websites, with the same for all: a sign-in page, or a resolver that lies. */
  readonly isIntercepted: boolean;
  /** The one network in which all that failed stands, so that it may also be that one; null where they are several, or unknown. */
  readonly network: string | null;
}

/** Looks of this long are taken into account. */
const SPAN = 20 * MINUTE;
/** So many independent websites have to be out of reach before it is ourselves that we doubt. */
const INDEPENDENT = 3;

/**
 * Whether it is our own network, or our resolver, that fails: several independent websites showed nothing of their own one after the
 * other, and none did meanwhile. A website shows nothing of its own where it is silent, or shows what others show too.
 * @param looks newest last
 * @returns null where nothing speaks for it
 */
export function outageSince(looks: readonly Reached[], now: Date): OutageSeen | null {
  const recent = lately(looks, now);
  const domainsWith = domainsByMark(recent);
  const failed: Reached[] = [];
  for (const look of recent.reverse()) {
    if (!isBlind(look, domainsWith)) break;
    failed.push(look);
  }
  const first = failed.at(-1);
  if (!first || new Set(failed.map(({ domain }) => domain)).size < INDEPENDENT) return null;
  const networks = new Set(failed.map(({ address }) => (address === null ? null : networkOf(address))));
  const [only = null] = networks;
  return {
    since: first.at,
    isIntercepted: failed.some(({ instead }) => instead !== SILENCE),
    network: networks.size === 1 ? only : null,
  };
}

/** Of some looks, those that showed nothing of their website's own, beside the others of their time. */
export function blindOf(looks: readonly Reached[], now: Date): Reached[] {
  const recent = lately(looks, now);
  const domainsWith = domainsByMark(recent);
  return recent.filter((look) => isBlind(look, domainsWith));
}

function lately(looks: readonly Reached[], now: Date): Reached[] {
  return looks.filter(({ at }) => Math.abs(now.getTime() - at.getTime()) <= SPAN);
}

function domainsByMark(looks: readonly Reached[]): Map<string, Set<string>> {
  const by = new Map<string, Set<string>>();
  for (const { instead, domain } of looks)
    if (instead !== null) by.set(instead, (by.get(instead) ?? new Set()).add(domain));
  return by;
}

function isBlind({ instead }: Reached, domainsWith: ReadonlyMap<string, ReadonlySet<string>>): boolean {
  if (instead === null) return false;
  return instead === SILENCE || (domainsWith.get(instead)?.size ?? 0) > 1;
}

/**
 * The network of an address, as far as its writing tells: what one host has is seldom wider.
 * @returns its first 24 bits (IPv4) or 48 (IPv6), in CIDR form
 */
export function networkOf(address: string): string {
  if (!address.includes(':')) return `${address.split('.').slice(0, 3).join('.')}.0/24`;
  const [head = '', tail] = address.split('::');
  const groups = head === '' ? [] : head.split(':');
  const filled = tail === undefined ? groups : [...groups, '0', '0', '0'];
  return `${filled.slice(0, 3).join(':')}::/48`;
}
