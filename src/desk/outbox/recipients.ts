import { Problem } from '../../api/problems.js';
import type { Recipient } from '../../api/documents.js';
import { isTimeZone, nextAt } from '../../core/alerts/digest-time.js';
import { ClientRow } from '../../store/models/clients.js';
import { PersonRow } from '../../store/models/people.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { findPerson, type SignedIn } from '../people/persons.js';

/** Who is told what, as it is on record. */
export interface RecipientValues {
  readonly personId: string;
  readonly email: string | null;
  readonly zone: string;
  readonly digestAt: string;
  readonly atOnce: number;
  readonly digest: number;
  /** JSON: identifiers of clients; null for all. */
  readonly clients: string | null;
  /** The digest has told everything up to this time. */
  readonly upTo: string;
}

const USUAL = { email: null, zone: 'UTC', digestAt: '07:00', atOnce: 1, digest: 1, clients: null } as const;

export interface RecipientChanges {
  readonly email?: string | null;
  readonly zone?: string;
  readonly digestAt?: string;
  readonly atOnce?: boolean;
  readonly digest?: boolean;
  readonly clients?: readonly string[] | null;
}

/** Everybody who has an address, and is here. */
export async function recipients({ store }: Pick<Desk, 'store'>): Promise<RecipientValues[]> {
  return store.select<RecipientValues>(
    `SELECT t.* FROM tellings t JOIN persons p ON p.id = t.personId AND p.endedAt IS NULL WHERE t.email IS NOT NULL ORDER BY t.personId`,
  );
}

/** Whether a person is notified of a client's alerts; what is of no client is everybody's. */
export function wants({ clients }: RecipientValues, clientId: string | null): boolean {
  return clients === null || clientId === null || (JSON.parse(clients) as string[]).includes(clientId);
}

/** When somebody's next digest is due. */
export function digestDue({ upTo, digestAt, zone }: RecipientValues): Date {
  return nextAt(new Date(upTo), digestAt, zone);
}

/** Who is notified of what: oneself, or everybody for a lead. */
export async function listRecipients(desk: Desk, { person }: SignedIn): Promise<{ items: Recipient[] }> {
  const people = await PersonRow.findAll({
    where: { endedAt: null, ...(person.role === 'lead' ? {} : { id: person.id }) },
    order: ['name'],
  });
  const rows = await desk.store.select<RecipientValues>('SELECT * FROM tellings');
  const rowOf = new Map(rows.map((row) => [row.personId, row]));
  return { items: await view(people, (id) => rowOf.get(id) ?? null) };
}

async function view(
  people: readonly PersonRow[],
  rowOf: (id: string) => RecipientValues | null,
): Promise<Recipient[]> {
  const clients = await ClientRow.findAll({ attributes: ['id', 'handle'] });
  const handleOf = new Map(clients.map(({ id, handle }) => [id, handle]));
  return people.map(({ id, name }) => {
    const { email, zone, digestAt, atOnce, digest, clients: some } = rowOf(id) ?? USUAL;
    return {
      person: name,
      ...{ email, zone, digestAt, atOnce: atOnce === 1, digest: digest === 1 },
      clients:
        some === null
          ? null
          : (JSON.parse(some) as string[]).flatMap((one) => handleOf.get(one) ?? []).sort(),
    };
  });
}

/** Changes who is notified of what: for oneself, or for anybody by a lead. Throws Problem. */
export async function editRecipient(
  desk: Desk,
  who: SignedIn,
  name: string,
  changes: RecipientChanges,
): Promise<Recipient> {
  const person = await findPerson(who, name);
  const { person: asking } = who;
  if (person.id !== asking.id && asking.role !== 'lead')
    throw new Problem('not-allowed', { role: 'lead', person: asking.name, own: asking.role });
  if (changes.zone !== undefined && !isTimeZone(changes.zone))
    throw new Problem('no-such-zone', { zone: changes.zone });
  const clients =
    changes.clients == null
      ? changes.clients
      : JSON.stringify(await Promise.all(changes.clients.map(async (ref) => (await findClient(ref)).id)));
  const actor: Actor = { personId: asking.id };
  const row = await desk.store.write(async (transaction) => {
    const [known] = await desk.store.select<RecipientValues>(
      'SELECT * FROM tellings WHERE personId = $id',
      { id: person.id },
      transaction,
    );
    const before: RecipientValues = known ?? { ...USUAL, personId: person.id, upTo: nowText(desk) };
    const { email, zone, digestAt, atOnce, digest } = changes;
    const after: RecipientValues = {
      personId: person.id,
      email: email === undefined ? before.email : email,
      zone: zone ?? before.zone,
      digestAt: digestAt ?? before.digestAt,
      atOnce: atOnce === undefined ? before.atOnce : Number(atOnce),
      digest: digest === undefined ? before.digest : Number(digest),
      clients: clients === undefined ? before.clients : clients,
      // Who is notified from now on does not get what was before.
      upTo: before.email === null ? nowText(desk) : before.upTo,
    };
    await desk.store.run('DELETE FROM tellings WHERE personId = $id', { id: person.id }, transaction);
    await desk.store.insert('tellings', [{ ...after }], transaction);
    await note(desk, actor, transaction, {
      kind: 'recipient.changed',
      says: `The notifications of ${person.name} were changed.`,
    });
    return after;
  });
  const [recipient] = await view([person], () => row);
  if (!recipient) throw new Error('what was just written is there');
  return recipient;
}
