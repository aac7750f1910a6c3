import { col, fn, Op } from 'sequelize';
import type { Client, Page } from '../../api/documents.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { newId } from '../../store/ids.js';
import { note } from '../context/journal.js';
import { handleFrom } from '../../core/address/handle.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { findClient } from '../context/references.js';
import { requireVersion, unlessTaken, type Expected } from '../context/versions.js';

async function view(row: ClientRow): Promise<Client> {
  const [client] = await viewAll([row]);
  if (!client) throw new Error('a client that is there is shown');
  return client;
}

/** Clients with the number of their properties: two queries, however many they are. */
async function viewAll(rows: readonly ClientRow[]): Promise<Client[]> {
  const counts = (await PropertyRow.findAll({
    where: { clientId: rows.map(({ id }) => id), archivedAt: null },
    attributes: ['clientId', [fn('COUNT', col('id')), 'count']],
    group: ['clientId'],
    raw: true,
  })) as unknown as { clientId: string; count: number }[];
  const countOf = new Map(counts.map(({ clientId, count }) => [clientId, count]));
  return rows.map(({ id, handle, name, contact, audience, createdAt, version }) => ({
    id,
    handle,
    name,
    contact: contact ?? null,
    audience,
    properties: countOf.get(id) ?? 0,
    createdAt,
    version,
  }));
}

/** Adds a client; its handle is made from its name where none is given. */
export async function addClient(
  desk: Desk,
  actor: Actor,
  input: { name: string; handle?: string; contact?: string; audience?: string[] },
): Promise<Client> {
  const handle = input.handle ?? handleFrom(input.name);
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const created = await ClientRow.create(
          {
            id: newId(),
            handle,
            name: input.name,
            contact: input.contact ?? null,
            audience: input.audience ?? [],
            createdAt: nowText(desk),
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'client.added',
          says: `Client ${input.name} was added.`,
          clientId: created.id,
        });
        return created;
      }),
    `A client with the handle “${handle}” is there already. Give another with --handle.`,
  );
  return view(row);
}

export async function listClients(query: { after?: string; limit?: number }): Promise<Page<Client>> {
  const limit = query.limit ?? 100;
  const rows = await ClientRow.findAll({
    where: { archivedAt: null, ...(query.after === undefined ? {} : { handle: { [Op.gt]: query.after } }) },
    order: ['handle'],
    limit: limit + 1,
  });
  const items = await viewAll(rows.slice(0, limit));
  return { items, next: rows.length > limit ? (items.at(-1)?.handle ?? null) : null };
}

export async function showClient(ref: string): Promise<Client> {
  return view(await findClient(ref));
}

/** @param expected version by If-Match, if the caller sent one */
export async function editClient(
  desk: Desk,
  actor: Actor,
  ref: string,
  changes: { name?: string; contact?: string | null; audience?: string[] },
  expected: Expected = null,
): Promise<Client> {
  const id = (await findClient(ref)).id;
  const row = await desk.store.write(async (transaction) => {
    const current = await ClientRow.findByPk(id, { transaction, rejectOnEmpty: true });
    requireVersion(current.version, expected);
    await current.update({ ...changes, version: current.version + 1 }, { transaction });
    await note(desk, actor, transaction, {
      kind: 'client.edited',
      says: `Client ${current.name} was edited.`,
      clientId: id,
      details: changes,
    });
    return current;
  });
  return view(row);
}
