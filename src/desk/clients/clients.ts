import { literal, col, fn, Op, where } from 'sequelize';
import type { Client, Page } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { ClientRow } from '../../store/models/clients.js';
import { newId } from '../../store/ids.js';
import { note } from '../context/journal.js';
import { followNoted } from './owner-noted.js';
import { countryOf, nearestCountry } from '../../core/country/countries.js';
import type { ClaimsBy } from '../../core/record/states.js';
import { handleFrom } from '../../core/address/handle.js';
import { inArchive } from '../context/put-away.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import type { Freshness } from '../lists/freshness.js';
import { findClient } from '../context/client-refs.js';
import { EXACT } from '../context/references.js';
import { requireVersion, unlessTaken, type Expected } from '../context/versions.js';

export async function viewClient(desk: Desk, row: ClientRow): Promise<Client> {
  const [client] = await viewAll(desk, [row]);
  if (!client) throw new Error('a client that is there is shown');
  return client;
}

/** Clients with the number of their properties, and how far they are: two queries or three, however many they are. */
async function viewAll(desk: Desk, rows: readonly ClientRow[]): Promise<Client[]> {
  const ids = JSON.stringify(rows.map(({ id }) => id));
  const among = 'clientId IN (SELECT value FROM json_each($ids))';
  const [counts, sums, ends] = await Promise.all([
    desk.store.select<{ clientId: string; count: number }>(
      `SELECT clientId, COUNT(*) AS count FROM properties WHERE ${among} AND archivedAt IS NULL GROUP BY clientId`,
      { ids },
    ),
    desk.store.select<{ clientId: string; done: number; total: number }>(
      `SELECT clientId, SUM(done) AS done, SUM(stages) AS total FROM yard_rows WHERE ${among} GROUP BY clientId`,
      { ids },
    ),
    rows.some(({ archivedAt }) => archivedAt != null)
      ? desk.store.select<{ clientId: string; deleteOn: string | null }>(
          `SELECT clientId, deleteOn, MAX(startedAt) FROM handovers WHERE ${among} GROUP BY clientId`,
          { ids },
        )
      : [],
  ]);
  const countOf = new Map(counts.map(({ clientId, count }) => [clientId, count]));
  const sumOf = new Map(sums.map(({ clientId, done, total }) => [clientId, { done, total }]));
  const endOf = new Map(ends.map(({ clientId, deleteOn }) => [clientId, deleteOn]));
  return rows.map(({ id, handle, name, contact, audience, claims, createdAt, archivedAt, version }) => ({
    id,
    handle,
    name,
    contact: contact ?? null,
    audience,
    claims: claims ?? null,
    properties: countOf.get(id) ?? 0,
    progress: sumOf.get(id) ?? { done: 0, total: 0 },
    createdAt,
    archivedAt: archivedAt ?? null,
    deleteOn: endOf.get(id) ?? null,
    version,
  }));
}

/** Adds a client; its handle is made from its name where none is given. */
export async function addClient(
  desk: Desk,
  actor: Actor,
  input: { name: string; handle?: string; contact?: string; audience?: string[]; anyway?: boolean },
): Promise<Client> {
  if (input.anyway !== true) await requireNewName(input.name);
  const audience = countriesOf(input.audience ?? []);
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
            audience,
            createdAt: nowText(desk),
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'client.added',
          says: `Client ${input.name} was added.`,
          clientId: created.id,
        });
        const noted = { clientId: created.id, before: null, now: created.contact ?? null };
        await followNoted(desk, actor, noted, transaction);
        return created;
      }),
    `A client with the handle “${handle}” is there already. Give another with --handle.`,
  );
  return viewClient(desk, row);
}

/** The codes of countries that are given by code or name, each once. Throws Problem that names each that is none. */
function countriesOf(given: readonly string[]): string[] {
  const read = given.map((text) => ({ text, code: countryOf(text) }));
  const unknown = read.filter(({ code }) => code === null);
  if (unknown.length > 0)
    throw new Problem('no-such-country', {
      which: unknown
        .map(({ text }) => {
          const near = nearestCountry(text);
          return `“${text}” is no country${near === null ? '.' : `. Did you mean ${near}?`}`;
        })
        .join(' '),
    });
  return [...new Set(read.flatMap(({ code }) => code ?? []))];
}

/** Two clients of one name are most often one that somebody has taken on before. Throws Problem. */
async function requireNewName(name: string): Promise<void> {
  const there = await ClientRow.findOne({
    where: { [Op.and]: [where(fn('lower', col('name')), name.trim().toLowerCase())], archivedAt: null },
  });
  if (there)
    throw new Problem('same-name', { name: there.name, handle: there.handle }, { handle: there.handle });
}

const WITH_PROPERTY = literal('(SELECT clientId FROM properties WHERE archivedAt IS NULL)');

export async function listClients(
  desk: Desk,
  kept: Freshness,
  query: { after?: string; limit?: number; archived?: boolean; without?: 'property' },
): Promise<Page<Client>> {
  await kept.current();
  const limit = query.limit ?? 100;
  const rows = await ClientRow.findAll({
    where: {
      ...inArchive(query.archived),
      ...(query.without === undefined ? {} : { id: { [Op.notIn]: WITH_PROPERTY } }),
      ...(query.after === undefined ? {} : { handle: { [Op.gt]: query.after } }),
    },
    order: ['handle'],
    limit: limit + 1,
  });
  const items = await viewAll(desk, rows.slice(0, limit));
  return { items, next: rows.length > limit ? (items.at(-1)?.handle ?? null) : null };
}

export async function showClient(desk: Desk, kept: Freshness, ref: string): Promise<Client> {
  await kept.current();
  return viewClient(desk, await findClient(ref));
}

/** @param expected version by If-Match, if the caller sent one */
export async function editClient(
  desk: Desk,
  actor: Actor,
  ref: string,
  changes: {
    handle?: string;
    name?: string;
    contact?: string | null;
    audience?: string[];
    claims?: ClaimsBy | null;
  },
  expected: Expected = null,
): Promise<Client> {
  const id = (await findClient(ref, EXACT)).id;
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const current = await ClientRow.findByPk(id, { transaction, rejectOnEmpty: true });
        requireVersion(current.version, expected);
        const before = current.contact ?? null;
        await current.update(
          {
            ...changes,
            ...(changes.audience === undefined ? {} : { audience: countriesOf(changes.audience) }),
            version: current.version + 1,
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'client.edited',
          says: `Client ${current.name} was edited.`,
          clientId: id,
          details: changes,
        });
        const noted = { clientId: id, before, now: current.contact ?? null };
        await followNoted(desk, actor, noted, transaction);
        return current;
      }),
    `A client with the handle “${changes.handle ?? ''}” is there already.`,
  );
  return viewClient(desk, row);
}
