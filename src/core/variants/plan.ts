import { registrableOf } from '../address/host.js';
import { covers, nameFor, type Scope } from '../address/reach.js';
import { addressText, parseAddress, type WebAddress } from '../address/web-address.js';
import { methodsFor, type EngineProfile } from '../profile/profile.js';
import type { Covering } from './cover.js';
import { isUsed, type VariantRole } from './roles.js';

/** One enrolment that is worth having at an engine, whether it is there or not. */
export interface PlanLine {
  readonly target: Scope;
  readonly why: string;
  /** The enrolment that does it already; null for one to be made. */
  readonly there: string | null;
}

/** What a registration plan is made from. */
export interface PlanGround {
  readonly door: WebAddress;
  readonly variants: readonly VariantRole[];
  /** Whether the client's people can get at the DNS zone; undefined where nobody said. */
  readonly zone: 'yes' | 'no' | undefined;
}

/**
 * The enrolments that are worth having at one engine, by its reach rules: what is there already and covers something
 * that visitors use stays; for what is not covered, a name where one enrolment does for several variants or where the
 * zone can be had, else one address after the other, the front door first.
 * @returns nothing where the engine cannot register the property at all
 */
export function planFor(
  profile: EngineProfile,
  ground: PlanGround,
  enrolments: readonly Covering[],
): PlanLine[] {
  const door = addressText(ground.door);
  const wanted = wantedAt(profile, ground.door, ground.variants);
  const kept = enrolments.filter(({ target }) => wanted.some((url) => covers(target, url)));
  const open = wanted.filter((url) => !kept.some(({ target }) => covers(target, url)));
  return [
    ...kept.map(({ target, name }) => ({ target, why: whyKept(target, door), there: name })),
    ...missing(profile, ground, open, wanted),
  ];
}

/** The variants that should be covered at an engine, the front door first. The house only wants to know who holds the keys to that. */
export function wantedAt(
  profile: EngineProfile,
  door: WebAddress,
  variants: readonly VariantRole[],
): string[] {
  const used = variants.filter(isUsed).map(({ address }) => address);
  return [...new Set([addressText(door), ...(profile.worked.how === 'house' ? [] : used)])];
}

function missing(
  profile: EngineProfile,
  ground: PlanGround,
  open: readonly string[],
  wanted: readonly string[],
): PlanLine[] {
  if (open.length === 0) return [];
  const byAddress = profile.reaches.includes('address') && methodsFor(profile, 'address').length > 0;
  const name = profile.reaches.includes('name') ? nameOver(ground.door, wanted) : null;
  const isWorthIt = ground.zone === 'yes' || open.length > 1 || !byAddress;
  if (name !== null && ground.zone !== 'no' && isWorthIt)
    return [{ target: { reach: 'name', name }, why: whyName(ground, wanted.length, byAddress), there: null }];
  if (!byAddress) return [];
  return open.map((url) => ({
    target: { reach: 'address', address: parseAddress(url) },
    why: url === addressText(ground.door) ? whyDoor(profile, ground, name) : WHY_ANOTHER,
    there: null,
  }));
}

function whyKept(target: Scope, door: string): string {
  if (target.reach === 'name') return 'Covers every host and scheme under the name.';
  return covers(target, door) ? 'Covers the front door.' : 'Covers a variant that visitors use.';
}

const WHY_ANOTHER =
  'Answers by itself: until it leads to the front door, the engine takes it for a place of its own.';

function whyName({ zone }: PlanGround, count: number, byAddress: boolean): string {
  const many =
    count > 1
      ? `One enrolment for ${String(count)} variants that visitors use`
      : 'Covers every host and scheme under it, whatever moves';
  if (zone === 'yes') return `${many}; the client can get at the DNS zone, which proves it.`;
  return byAddress
    ? `${many}; wants a record in the DNS zone.`
    : `${many}; the engine registers in no other way. Wants a record in the DNS zone.`;
}

function whyDoor(profile: EngineProfile, { zone, door }: PlanGround, name: string | null): string {
  if (!profile.reaches.includes('name')) return 'The front door; the engine registers one address at a time.';
  if (name === null)
    return door.path === '/'
      ? 'The front door; no one name is over all variants.'
      : 'The front door; a name would cover the neighbours of the folder too.';
  return zone === 'no'
    ? 'The front door; to cover the name would take access to the DNS zone, which the client lacks.'
    : 'The front door; every method can prove it.';
}

/** The narrowest name that is over all variants; null for a folder, or where they are under several domains. */
function nameOver(door: WebAddress, urls: readonly string[]): string | null {
  const narrow = nameFor(door);
  if (narrow === null) return null;
  const domain = registrableOf(door.host);
  return [narrow, domain].find((name) => urls.every((url) => covers({ reach: 'name', name }, url))) ?? null;
}
