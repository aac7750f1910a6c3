import { parseTarget } from '../../core/address/reach.js';
import {
  addressForPeople,
  addressText,
  parseAddress,
  type WebAddress,
} from '../../core/address/web-address.js';
import { coverOf, type Covering, type EngineCover } from '../../core/variants/cover.js';
import { wantedAt } from '../../core/variants/plan.js';
import type { VariantRole } from '../../core/variants/roles.js';
import type { NextStep } from '../../core/worklist/next-step.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { EnrolmentFacts } from '../facts.js';
import { by } from '../newest.js';
import type { VariantFacts } from './facts.js';

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

/** A step that the variants of a property ask for; for all engines where `engine` is null. */
export interface VariantStepAt {
  readonly engine: { readonly id: string; readonly title: string } | null;
  readonly step: NextStep;
}

/** What the variants ask for: to mend what makes all other work void, and to enrol the front door where no enrolment covers it. */
export function variantSteps(
  property: PropertyRow,
  { stops, move }: VariantFacts,
  covers: readonly CoverAt[],
): VariantStepAt[] {
  const door = knownDoor(property);
  const at = door && addressText(door);
  const mend = stops.slice(0, 1).map(({ finding, since }): VariantStepAt => ({
    engine: null,
    step: { kind: 'mend-site', says: finding.says, since: new Date(since), until: null },
  }));
  if (door === null || at === null) return mend;
  const since = move?.toAddress === at ? move.at : (property.variantsAt ?? property.createdAt);
  const moved = move?.toAddress === at ? 'now ' : '';
  const enrol = covers
    .filter(({ uncovered }) => uncovered.includes(at))
    .map(({ engine }): VariantStepAt => ({
      engine,
      step: {
        kind: 'enrol-door',
        says: `Visitors ${moved}end up at ${addressForPeople(door)}, which no enrolment at ${engine.title} covers: enrol it there.`,
        since: new Date(since),
        until: null,
      },
    }));
  return [...mend, ...enrol];
}
