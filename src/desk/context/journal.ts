import { Op, type Transaction, type WhereOptions } from 'sequelize';
import { Problem } from '../../api/problems.js';
import type { JournalEntry, Page } from '../../api/documents.js';
import { ClientRow, JournalRow, PropertyRow } from '../../store/models/clients.js';
import { PersonRow } from '../../store/models/people.js';
import { nowText, tellChange, type Actor, type Desk } from './desk.js';
import { findClient } from './client-refs.js';
import { findProperty } from './references.js';

export interface Happening {
  readonly kind: string;
  readonly says: string;
  readonly clientId?: string;
  readonly property?: PropertyRow;
  readonly enrolmentId?: string;
  readonly details?: object;
}

/** Writes one line of the journal, in the transaction of the change that it tells of. */
export async function note(
  desk: Desk,
  actor: Actor,
  transaction: Transaction,
  happening: Happening,
): Promise<void> {
  await JournalRow.create(
    {
      at: nowText(desk),
      personId: actor.personId,
      kind: happening.kind,
      clientId: happening.clientId ?? happening.property?.clientId ?? null,
      propertyId: happening.property?.id ?? null,
      enrolmentId: happening.enrolmentId ?? null,
      says: happening.says,
      details: happening.details ?? null,
    },
    { transaction },
  );
  transaction.afterCommit(() => {
    const [kind = ''] = happening.kind.split('.');
    tellChange(desk, { kind, properties: happening.property ? [happening.property.id] : [] });
  });
}

export interface JournalAsked {
  readonly property?: string;
  readonly client?: string;
  readonly kind?: string;
  readonly who?: string;
  readonly from?: string;
  readonly until?: string;
  readonly after?: string;
  readonly limit?: number;
}

/** The journal, newest first: of everything, a client or a property, of one kind, by one person, between two times. Throws Problem. */
export async function readJournal(query: JournalAsked): Promise<Page<JournalEntry>> {
  const limit = query.limit ?? 100;
  const between = [await linesBetween(query), query.kind === undefined ? {} : ofKind(query.kind)];
  const where: WhereOptions<JournalRow> = {
    [Op.and]: between,
    ...(query.who === undefined ? {} : { personId: await doneBy(query.who) }),
    ...(query.property === undefined
      ? {}
      : { propertyId: (await findProperty(query.property, { archivedToo: true })).id }),
    ...(query.client === undefined ? {} : { clientId: (await findClient(query.client)).id }),
    ...(query.after === undefined ? {} : { seq: { [Op.lt]: seqIn(query.after) } }),
  };
  const rows = await JournalRow.findAll({ where, order: [['seq', 'DESC']], limit: limit + 1 });
  const shown = rows.slice(0, limit);
  const names = await namesFor(shown);
  const items = shown.map((row): JournalEntry => ({
    seq: row.seq,
    at: row.at,
    who: row.personId === null ? null : (names.get(row.personId) ?? null),
    kind: row.kind,
    client: row.clientId === null ? null : (names.get(row.clientId) ?? null),
    property: row.propertyId === null ? null : (names.get(row.propertyId) ?? null),
    says: row.says,
    details: row.details,
  }));
  return { items, next: rows.length > limit ? String(shown.at(-1)?.seq) : null };
}

/** What nobody did is the service's own; and what anybody did. */
const SERVICE = 'service';
const PEOPLE = 'people';

async function doneBy(who: string): Promise<string | null | { [Op.ne]: null }> {
  if (who === SERVICE) return null;
  if (who === PEOPLE) return { [Op.ne]: null };
  // Names of people are compared without regard to case, as the records do it.
  const person = await PersonRow.findOne({ where: { name: who } });
  if (person) return person.id;
  throw new Problem('no-such-person', { ref: who });
}

/** A kind by the whole of its name, or all that begin with its first word. */
function ofKind(kind: string): WhereOptions<JournalRow> {
  if (kind.includes('.')) return { kind };
  return { [Op.or]: [{ kind }, { kind: { [Op.gte]: `${kind}.`, [Op.lt]: `${kind}/` } }] };
}

/** The lines between two times: their numbers go up with the time, so that only the first and the last are looked for. */
async function linesBetween({ from, until }: JournalAsked): Promise<WhereOptions<JournalRow>> {
  const firstAt = async (time: string): Promise<number | null> => {
    const at = new Date(time).toISOString();
    const row = await JournalRow.findOne({
      where: { at: { [Op.gte]: at } },
      order: ['at', 'seq'],
      attributes: ['seq'],
    });
    return row?.seq ?? null;
  };
  const [first, end] = await Promise.all([
    from === undefined ? undefined : firstAt(from),
    until === undefined ? undefined : firstAt(until),
  ]);
  return {
    [Op.and]: [
      // Nothing happened since then.
      ...(first === null
        ? [{ seq: { [Op.lt]: 0 } }]
        : first === undefined
          ? []
          : [{ seq: { [Op.gte]: first } }]),
      ...(end == null ? [] : [{ seq: { [Op.lt]: end } }]),
    ],
  };
}

/** The line after which a page begins. Throws Problem for a text that is none. */
function seqIn(after: string): number {
  if (/^\d{1,15}$/.test(after)) return Number(after);
  throw new Problem('bad-cursor');
}

async function namesFor(rows: readonly JournalRow[]): Promise<Map<string, string>> {
  const ids = (pick: (row: JournalRow) => string | null) => [
    ...new Set(rows.map(pick).filter((id) => id !== null)),
  ];
  const [persons, clients, properties] = await Promise.all([
    PersonRow.findAll({ where: { id: ids((row) => row.personId) }, attributes: ['id', 'name'] }),
    ClientRow.findAll({ where: { id: ids((row) => row.clientId) }, attributes: ['id', 'handle'] }),
    PropertyRow.findAll({ where: { id: ids((row) => row.propertyId) }, attributes: ['id', 'handle'] }),
  ]);
  return new Map([
    ...persons.map(({ id, name }) => [id, name] as const),
    ...[...clients, ...properties].map(({ id, handle }) => [id, handle] as const),
  ]);
}

/** The names of people by identifier, for those who recorded something by hand. */
export async function personNames(
  ids: readonly (string | null | undefined)[],
): Promise<ReadonlyMap<string, string>> {
  const some = [...new Set(ids.filter((id) => id != null))];
  if (some.length === 0) return new Map();
  const people = await PersonRow.findAll({ where: { id: some }, attributes: ['id', 'name'] });
  return new Map(people.map(({ id, name }) => [id, name]));
}
