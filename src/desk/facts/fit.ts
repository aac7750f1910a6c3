import type { Fit } from '../../api/documents.js';
import { scopeForPeople, scopeText } from '../../core/address/reach.js';
import { fitOf, missingFacts } from '../../core/profile/fit.js';
import { isBorrowing, type EngineProfile, type Profile } from '../../core/profile/profile.js';
import { planFor, type PlanLine } from '../../core/variants/plan.js';
import { ClientRow, type PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { viewFact } from './wanted-fact.js';
import type { Desk } from '../context/desk.js';
import { heldAbove } from './covering.js';
import { enrolmentFacts, type EnrolmentFacts } from './enrolment-facts.js';
import { by } from '../context/newest.js';
import { findProperty } from '../context/references.js';
import { coveringOf, knownDoor } from './cover.js';
import { variantFacts } from './variant-facts.js';

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
  const plans = (await plansFor(desk, [property])).get(property.id);
  if (!plans) throw new Error('a property that is there has plans');
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

/** Properties whose plans are made at a time, so that thousands hold nobody up. */
const AT_ONCE = 200;

/** The registration plans of properties, by their identifiers: a few queries for each two hundred of them. */
export async function plansFor(
  desk: Desk,
  properties: readonly PropertyRow[],
): Promise<ReadonlyMap<string, Plans>> {
  const plans = new Map<string, Plans>();
  for (let from = 0; from < properties.length; from += AT_ONCE)
    for (const [id, one] of await someFor(desk, properties.slice(from, from + AT_ONCE))) plans.set(id, one);
  return plans;
}

async function someFor(desk: Desk, properties: readonly PropertyRow[]): Promise<[string, Plans][]> {
  const ids = properties.map(({ id }) => id);
  const [rows, variantsOf, above] = await Promise.all([
    EnrolmentRow.findAll({ where: { propertyId: ids, endedAt: null }, order: ['engine', 'reach'] }),
    variantFacts(desk, ids),
    heldAbove(desk, properties),
  ]);
  const own = by(await enrolmentFacts(desk, rows), ({ row }) => row.propertyId);
  return properties.map((property) => {
    const enrolments = own.get(property.id) ?? [];
    const door = knownDoor(property);
    const ground = door && { door, variants: variantsOf(property.id).roles, zone: property.access.zone };
    // What the engine has lost has to be made again.
    const there = [...enrolments, ...above(property)].filter(({ row }) => row.missingSince == null);
    const at: Plans['at'] = (profile) =>
      ground &&
      planFor(profile, ground, there.filter(({ row }) => row.engine === profile.id).map(coveringOf));
    return [property.id, { enrolments, at }];
  });
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
          target: scopeText(target),
          targetForPeople: scopeForPeople(target),
          why,
          there,
        })),
  };
}
