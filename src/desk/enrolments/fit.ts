import type { Fit } from '../../api/documents.js';
import { targetForPeople, targetText } from '../../core/address/reach.js';
import { fitOf, missingFacts } from '../../core/profile/fit.js';
import { isBorrowing, type EngineProfile, type Profile } from '../../core/profile/profile.js';
import { planFor, type PlanLine } from '../../core/variants/plan.js';
import { ClientRow, type PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { viewFact } from '../engines/list.js';
import type { Desk } from '../context/desk.js';
import { enrolmentFacts, type EnrolmentFacts } from '../standing/facts.js';
import { findProperty } from '../context/references.js';
import { coveringOf, knownDoor } from '../variants/cover.js';
import { variantFacts } from '../variants/facts.js';

/** The engines that matter to an audience and can be enrolled with, by id, in the order of their profiles. */
export function fittingEngines(desk: Desk, audience: readonly string[]): string[] {
  const titleOf = (id: string) => desk.book.titleOf(id);
  return [...desk.book.profiles.values()]
    .filter((profile) => fitOf(profile, audience, titleOf).fits)
    .map(({ id }) => id);
}

/** Every engine beside a property: whether it is worth it, why, what it will ask, and which enrolments to have there. */
export async function listFit(desk: Desk, propertyRef: string): Promise<{ items: Fit[] }> {
  const property = await findProperty(propertyRef);
  const client = await ClientRow.findByPk(property.clientId, { rejectOnEmpty: true });
  const plans = await plansFor(desk, property);
  const items = [...desk.book.all().values()].map((profile) =>
    view(desk, profile, property, client.audience, plans),
  );
  return { items };
}

/** The enrolments of a property, and the plan at an engine, from what is known of its variants. */
export interface Plans {
  readonly enrolments: readonly EnrolmentFacts[];
  /** @returns null while the front door is not known */
  readonly at: (profile: EngineProfile) => PlanLine[] | null;
}

/** The registration plans of a property. */
export async function plansFor(desk: Desk, property: PropertyRow): Promise<Plans> {
  const [rows, variantsOf] = await Promise.all([
    EnrolmentRow.findAll({ where: { propertyId: property.id, endedAt: null }, order: ['engine', 'reach'] }),
    variantFacts(desk, [property.id]),
  ]);
  const enrolments = await enrolmentFacts(desk, rows);
  const door = knownDoor(property);
  const ground = door && { door, variants: variantsOf(property.id).roles, zone: property.access.zone };
  return {
    enrolments,
    at: (profile) =>
      ground &&
      planFor(
        profile,
        ground,
        // What the engine has lost has to be made again.
        enrolments.filter(({ row }) => row.engine === profile.id && row.missingSince == null).map(coveringOf),
      ),
  };
}

function view(
  desk: Desk,
  profile: Profile,
  property: PropertyRow,
  audience: readonly string[],
  { enrolments, at }: Plans,
): Fit {
  return {
    engine: { id: profile.id, title: profile.title, worked: profile.worked.how },
    ...fitOf(profile, audience, (id) => desk.book.titleOf(id)),
    enrolled: enrolments.filter(({ row }) => row.engine === profile.id).map(({ name }) => name),
    wants: isBorrowing(profile) ? [] : missingFacts(profile.facts, property.facts).map(viewFact),
    plan: isBorrowing(profile)
      ? []
      : (at(profile) ?? []).map(({ target, why, there }) => ({
          reach: target.reach,
          target: targetText(target),
          targetForPeople: targetForPeople(target),
          why,
          there,
        })),
  };
}
