import type { Fit } from '../api/documents.js';
import { fitOf, missingFacts } from '../core/profile/fit.js';
import { isBorrowing, type Profile } from '../core/profile/profile.js';
import { ClientRow, type PropertyRow } from '../store/models/clients.js';
import { EnrolmentRow } from '../store/models/enrolments.js';
import { viewFact } from './engine-list.js';
import type { Desk } from './parts.js';
import { findProperty } from './refs.js';

/** The engines that matter to an audience and can be enrolled with, by id, in the order of their profiles. */
export function fittingEngines(desk: Desk, audience: readonly string[]): string[] {
  const titleOf = (id: string) => desk.book.titleOf(id);
  return [...desk.book.profiles.values()]
    .filter((profile) => fitOf(profile, audience, titleOf).fits)
    .map(({ id }) => id);
}

/** Every engine beside a property: whether it is worth it, why, and what it will ask. */
export async function listFit(desk: Desk, propertyRef: string): Promise<{ items: Fit[] }> {
  const property = await findProperty(propertyRef);
  const client = await ClientRow.findByPk(property.clientId, { rejectOnEmpty: true });
  const rows = await EnrolmentRow.findAll({
    where: { propertyId: property.id, endedAt: null },
    order: ['engine', 'reach'],
  });
  const items = [...desk.book.all().values()].map((profile) =>
    view(desk, profile, property, client.audience, rows),
  );
  return { items };
}

function view(
  desk: Desk,
  profile: Profile,
  property: PropertyRow,
  audience: readonly string[],
  rows: readonly EnrolmentRow[],
): Fit {
  return {
    engine: { id: profile.id, title: profile.title, worked: profile.worked.how },
    ...fitOf(profile, audience, (id) => desk.book.titleOf(id)),
    enrolled: rows
      .filter(({ engine }) => engine === profile.id)
      .map(({ reach }) => `${property.handle}@${profile.id}:${reach}`),
    wants: isBorrowing(profile) ? [] : missingFacts(profile.facts, property.facts).map(viewFact),
  };
}
