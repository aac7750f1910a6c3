import { targetsOver } from '../../core/address/targets-over.js';
import { addressText } from '../../core/address/web-address.js';
import { isHeld } from '../../core/variants/cover.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import { enrolmentFacts, type EnrolmentFacts } from './enrolment-facts.js';

/**
 * The held enrolments of other properties that are over some, as that of a site is over its folders: what an engine honours there it
 * honours below. A few queries, however many the properties are.
 */
export async function heldAbove(
  desk: Desk,
  properties: readonly PropertyRow[],
): Promise<(property: PropertyRow) => readonly EnrolmentFacts[]> {
  const under = new Map<string, Set<string>>();
  for (const one of properties)
    for (const target of targetsOver(new URL(addressText(frontDoorOf(one)))))
      under.set(target, new Set(under.get(target)).add(one.id));
  const rows = await EnrolmentRow.findAll({
    where: { target: [...under.keys()], endedAt: null, missingSince: null },
  });
  // Most of what is found is a property's own, at its own front door.
  const foreign = rows.filter(({ target, propertyId }) =>
    [...(under.get(target) ?? [])].some((id) => id !== propertyId),
  );
  if (foreign.length === 0) return () => [];
  const living = await PropertyRow.findAll({
    where: { id: foreign.map(({ propertyId }) => propertyId), archivedAt: null },
    attributes: ['id'],
  });
  const isLiving = new Set(living.map(({ id }) => id));
  const facts = await enrolmentFacts(
    desk,
    foreign.filter(({ engine, propertyId }) => desk.book.profiles.has(engine) && isLiving.has(propertyId)),
  );
  const held = facts.filter(({ standing }) => isHeld(standing));
  return ({ id }) =>
    held.filter(({ row }) => row.propertyId !== id && under.get(row.target)?.has(id) === true);
}
