import type { Contact, NewContact } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { ContactRole } from '../../core/letter/contact.js';
import { newId } from '../../store/ids.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { EXACT, findProperty } from '../context/references.js';

/** Somebody of a client's, as they are on record. */
export interface ContactValues {
  readonly id: string;
  readonly clientId: string;
  /** Null where they are there for all of the client. */
  readonly propertyId: string | null;
  readonly name: string;
  readonly role: ContactRole;
  readonly email: string | null;
  readonly language: 'en' | 'de';
  readonly createdAt: string;
  readonly endedAt: string | null;
}

const MOST_OF_A_CLIENT = 500;

/** The people of a client. */
export function contactsOf({ store }: Pick<Desk, 'store'>, clientId: string): Promise<ContactValues[]> {
  return store.select<ContactValues>(
    'SELECT * FROM contacts WHERE clientId = $clientId AND endedAt IS NULL ORDER BY name, id',
    { clientId },
  );
}

/** Clients' people; of one property those who are there for it. Throws Problem. */
export async function listContacts(
  desk: Desk,
  { client, property }: { readonly client?: string; readonly property?: string },
): Promise<{ items: Contact[] }> {
  const of = property === undefined ? null : await findProperty(property);
  const clientId = of?.clientId ?? (client === undefined ? null : (await findClient(client)).id);
  const rows =
    clientId === null
      ? await desk.store.select<ContactValues>(
          'SELECT * FROM contacts WHERE endedAt IS NULL ORDER BY name, id LIMIT 1000',
        )
      : await contactsOf(desk, clientId);
  return {
    items: await viewContacts(
      of ? rows.filter(({ propertyId }) => propertyId === null || propertyId === of.id) : rows,
    ),
  };
}

export async function viewContacts(rows: readonly ContactValues[]): Promise<Contact[]> {
  const [clients, properties] = await Promise.all([
    ClientRow.findAll({ where: { id: rows.map(({ clientId }) => clientId) }, attributes: ['id', 'handle'] }),
    PropertyRow.findAll({
      where: { id: rows.flatMap(({ propertyId }) => propertyId ?? []) },
      attributes: ['id', 'handle'],
    }),
  ]);
  const handles = new Map([...clients, ...properties].map(({ id, handle }) => [id, handle]));
  return rows.map(({ id, clientId, propertyId, name, role, email, language, createdAt }) => ({
    ...{ id, name, role, email, language, createdAt },
    client: handles.get(clientId) ?? clientId,
    property: propertyId === null ? null : (handles.get(propertyId) ?? null),
  }));
}

/** Notes somebody of a client's. Throws Problem. */
export async function addContact(
  desk: Desk,
  actor: Actor,
  { client, property: ref, name, role, email, language = 'en' }: NewContact,
): Promise<Contact> {
  const property = ref === undefined ? null : await findProperty(ref, EXACT);
  const clientId = property?.clientId ?? (await findClient(client ?? '', EXACT)).id;
  if ((await contactsOf(desk, clientId)).length >= MOST_OF_A_CLIENT)
    throw new Problem('too-many-contacts', { most: MOST_OF_A_CLIENT });
  const row: ContactValues = {
    ...{ id: newId(), clientId, propertyId: property?.id ?? null, name, role },
    ...{ email: email ?? null, language, createdAt: nowText(desk), endedAt: null },
  };
  await desk.store.write(async (transaction) => {
    await desk.store.insert('contacts', [{ ...row }], transaction);
    await note(desk, actor, transaction, {
      kind: 'contact.added',
      says: `${name} is the ${role} of ${property?.handle ?? 'all of the client’s websites'}.`,
      ...(property ? { property } : { clientId }),
    });
  });
  const [contact] = await viewContacts([row]);
  if (!contact) throw new Error('what was just written is there');
  return contact;
}

/** Somebody is written to no more; what they were written stays. Throws Problem. */
export async function endContact(desk: Desk, actor: Actor, id: string): Promise<void> {
  const [row] = await desk.store.select<ContactValues>(
    'SELECT * FROM contacts WHERE id = $id AND endedAt IS NULL',
    { id },
  );
  if (!row) throw new Problem('no-such-contact', { ref: id });
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'UPDATE contacts SET endedAt = $now WHERE id = $id',
      { id, now: nowText(desk) },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'contact.ended',
      says: `${row.name} is written to no more.`,
      clientId: row.clientId,
    });
  });
}
