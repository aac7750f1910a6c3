import { parseTarget } from '../../core/address/reach.js';
import { parseAddress, type WebAddress } from '../../core/address/web-address.js';
import { coverOf, type Covering, type EngineCover } from '../../core/variants/cover.js';
import { wantedAt } from '../../core/variants/plan.js';
import type { VariantRole } from '../../core/variants/roles.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { EnrolmentFacts } from '../standing/facts.js';
import { by } from '../context/newest.js';

/** An engine with what its enrolments cover. */
export interface CoverAt extends EngineCover {
  readonly engine: { readonly id: string; readonly title: string };
  readonly enrolments: readonly Covering[];
}

export function coveringOf({ name, row, standing }: EnrolmentFacts): Covering {
  return { name, target: parseTarget(row.reach, row.target), badge: standing.badge };
}

/** The front door on record; null while it is not known. */
export function knownDoor(property: PropertyRow): WebAddress | null {
  return property.frontDoor == null ? null : parseAddress(property.frontDoor);
}

/** What the enrolments of a property cover, engine by engine. */
export function coverByEngine(
  property: PropertyRow,
  roles: readonly VariantRole[],
  enrolments: readonly EnrolmentFacts[],
): CoverAt[] {
  const door = knownDoor(property);
  return [...by(enrolments, ({ profile }) => profile.id)].flatMap(([id, some]) => {
    const first = some[0];
    if (!first) return [];
    const { title } = first.profile;
    const own = some.map(coveringOf);
    const wanted = door && roles.length > 0 ? wantedAt(first.profile, door, roles) : [];
    return [{ engine: { id, title }, enrolments: own, ...coverOf(title, roles, door, own, wanted) }];
  });
}
