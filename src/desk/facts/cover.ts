import { parseScope } from '../../core/address/reach.js';
import { parseAddress, type WebAddress } from '../../core/address/web-address.js';
import { coverOf, type Covering, type EngineCover } from '../../core/variants/cover.js';
import { wantedAt } from '../../core/variants/plan.js';
import type { VariantRole } from '../../core/variants/roles.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { EnrolmentFacts } from './enrolment-facts.js';
import { by } from '../context/newest.js';

/** An engine with what its enrolments cover. */
export interface CoverAt extends EngineCover {
  readonly engine: { readonly id: string; readonly title: string };
  readonly enrolments: readonly Covering[];
}

export function coveringOf({ name, row, standing }: EnrolmentFacts): Covering {
  return { name, target: parseScope(row.reach, row.target), badge: standing.badge };
}

/** The front door on record; null while it is not known. */
export function knownDoor(property: PropertyRow): WebAddress | null {
  return property.frontDoor == null ? null : parseAddress(property.frontDoor);
}

/**
 * What the enrolments of a property cover, engine by engine.
 * @param above what is held for other properties and is over this one
 */
export function coverByEngine(
  property: PropertyRow,
  roles: readonly VariantRole[],
  enrolments: readonly EnrolmentFacts[],
  above: readonly EnrolmentFacts[],
): CoverAt[] {
  const door = knownDoor(property);
  const ownAt = by(enrolments, ({ profile }) => profile.id);
  const aboveAt = by(above, ({ profile }) => profile.id);
  return [...new Set([...ownAt.keys(), ...aboveAt.keys()])].flatMap((id) => {
    const some = ownAt.get(id) ?? [];
    const over = aboveAt.get(id) ?? [];
    const profile = (some[0] ?? over[0])?.profile;
    if (!profile) return [];
    const { title } = profile;
    const own = some.map(coveringOf);
    const wanted = door && roles.length > 0 ? wantedAt(profile, door, roles) : [];
    const cover = coverOf(title, roles, door, own, wanted, over.map(coveringOf));
    return [{ engine: { id, title }, enrolments: own, ...cover }];
  });
}
