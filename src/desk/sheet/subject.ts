import { hostsForPeople } from '../../core/address/host.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { frontDoorOf } from '../context/front-door.js';
import { findClient } from '../context/client-refs.js';
import { findProperty } from '../context/references.js';

/** Properties of one client whose tokens go onto one sheet: nobody places more in one go. */
export const MOST_PROPERTIES = 200;

/** Whom a sheet is for: one property, or all of a client. */
export interface SheetFor {
  readonly property?: string;
  readonly client?: string;
  /** Only what is to be done. */
  readonly open?: boolean;
}

export interface Subject {
  /** As the client's people call it: the host, or the client's name. */
  readonly title: string;
  readonly clientId: string;
  /** Null where it is for all of the client. */
  readonly propertyId: string | null;
  readonly properties: readonly PropertyRow[];
  /** How many more the client has than go onto one sheet. */
  readonly left: number;
}

/** The properties that a sheet is for, by how they are named. Throws Problem. */
export async function subjectOf({ property, client }: SheetFor): Promise<Subject> {
  if (property !== undefined) return ofProperty(await findProperty(property));
  return ofClient(await findClient(client ?? ''));
}

/** The same by identifiers on record. @returns null where it is archived */
export async function subjectAt(clientId: string, propertyId: string | null): Promise<Subject | null> {
  if (propertyId !== null) {
    const row = await PropertyRow.findOne({ where: { id: propertyId, archivedAt: null } });
    return row && ofProperty(row);
  }
  const row = await ClientRow.findOne({ where: { id: clientId, archivedAt: null } });
  return row && ofClient(row);
}

/** A website by the host at which people arrive. */
export function titleOf(row: PropertyRow): string {
  return hostsForPeople(frontDoorOf(row).host);
}

function ofProperty(row: PropertyRow): Subject {
  return {
    title: titleOf(row),
    clientId: row.clientId,
    propertyId: row.id,
    properties: [row],
    left: 0,
  };
}

async function ofClient({ id, name }: ClientRow): Promise<Subject> {
  const where = { clientId: id, archivedAt: null };
  const { rows, count } = await PropertyRow.findAndCountAll({
    where,
    order: ['handle'],
    limit: MOST_PROPERTIES,
  });
  return { title: name, clientId: id, propertyId: null, properties: rows, left: count - rows.length };
}
