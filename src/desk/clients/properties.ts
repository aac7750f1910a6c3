import { durationMs, durationWords } from '../../core/time/duration.js';
import type { Rhythms, Watched } from '../../core/watch/rhythm.js';
import { Op } from 'sequelize';
import { readPaste } from '../../core/address/paste.js';
import { registrableOf, unicodeOf } from '../../core/address/host.js';
import {
  addressForPeople,
  addressText,
  parseAddress,
  type WebAddress,
} from '../../core/address/web-address.js';
import type { Access, NewProperty, Page, Property } from '../../api/documents.js';
import { isAnswered, type Anyway } from '../../api/asks.js';
import { Problem } from '../../api/problems.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { VariantRow } from '../../store/models/variants.js';
import { newId } from '../../store/ids.js';
import { handleFrom } from '../../core/address/handle.js';
import { note } from '../context/journal.js';
import type { JobRunner } from '../jobs/runner.js';
import { inArchive } from '../context/put-away.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { findClient } from '../context/client-refs.js';
import { has } from '../context/matching.js';
import { findProperty, EXACT } from '../context/references.js';
import { requireVersion, unlessTaken, type Expected } from '../context/versions.js';
import { given } from '../../api/given.js';

export async function viewProperty(row: PropertyRow): Promise<Property> {
  return view(row, await ClientRow.findByPk(row.clientId, { rejectOnEmpty: true }));
}

function view(row: PropertyRow, client: ClientRow): Property {
  const frontDoor = row.frontDoor ?? null;
  return {
    id: row.id,
    handle: row.handle,
    client: { id: client.id, handle: client.handle, name: client.name },
    address: row.address,
    addressForPeople: addressForPeople(parseAddress(row.address)),
    host: { ascii: row.host, unicode: unicodeOf(row.host), registrable: registrableOf(row.host) },
    frontDoor: {
      address: frontDoor,
      forPeople: frontDoor === null ? null : addressForPeople(parseAddress(frontDoor)),
      says: row.frontDoorSays ?? null,
      seenAt: row.frontDoorAt ?? null,
    },
    facts: { ...row.facts },
    access: { ...row.access },
    rhythms: { ...row.rhythms },
    nameEnds: row.nameEnds ?? null,
    createdAt: row.createdAt,
    archivedAt: row.archivedAt ?? null,
    version: row.version,
  };
}

/** Takes on a property from whatever was pasted, and sends someone to look at its variants. */
export async function addProperty(
  desk: Desk,
  jobs: JobRunner,
  actor: Actor,
  input: { client: string; address: string; handle?: string; anyway?: Anyway },
): Promise<NewProperty> {
  const paste = readPaste(input.address);
  if (paste.kind === 'refused') throw new Problem('bad-address', { says: paste.says }, { why: paste.why });
  const client = await findClient(input.client, EXACT);
  const address = addressText(paste.address);
  const there = await PropertyRow.findOne({ where: { address, archivedAt: null } });
  if (there)
    throw new Problem(
      'already-there',
      { says: `${address} is there already, as the property ${there.handle}.` },
      {
        handle: there.handle,
      },
    );
  if (paste.isPage && !isAnswered(input.anyway, 'one-page'))
    throw new Problem('one-page', {
      address,
      site: addressText({ ...paste.address, path: '/' }),
    });
  if (!isAnswered(input.anyway, 'same-site')) await requireOtherSite(paste.address);
  const handle = input.handle ?? (await freeHandle(paste.host.unicode, paste.address.path));
  const id = newId();
  const job = jobs.prepare('variants', actor, [{ subject: handle, input: { propertyId: id } }]);
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const created = await PropertyRow.create(
          {
            id,
            clientId: client.id,
            handle,
            address,
            host: paste.address.host,
            createdAt: nowText(desk),
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'property.added',
          says: `${handle} was taken on: ${address}.`,
          property: created,
          details: { pasted: input.address, notes: paste.notes },
        });
        await job.write(transaction);
        return created;
      }),
    `A property with the handle “${handle}” is there already. Give another with --handle.`,
  );
  job.begin();
  return { ...(await viewProperty(row)), notes: [...paste.notes], job: job.id };
}

/**
 * The same site by another scheme, port or with `www.`, or an address that is a variant of another property, is most often no
 * property of its own. Throws Problem.
 */
async function requireOtherSite(address: WebAddress): Promise<void> {
  const bare = address.host.replace(/^www\./, '');
  const alike = await PropertyRow.findAll({
    where: { host: [bare, `www.${bare}`], archivedAt: null },
    order: ['createdAt'],
  });
  const same = alike.find((one) => parseAddress(one.address).path === address.path);
  const known = same
    ? null
    : await VariantRow.findOne({ where: { address: addressText(address), endedAt: null } });
  const there =
    same ?? (known && (await PropertyRow.findOne({ where: { id: known.propertyId, archivedAt: null } })));
  if (!there) return;
  const client = await ClientRow.findByPk(there.clientId, { rejectOnEmpty: true });
  throw new Problem(
    'same-site',
    {
      address: addressForPeople(address),
      how: same ? `the same site as ${there.address}` : `a variant of ${there.frontDoor ?? there.address}`,
      handle: there.handle,
      client: client.name,
    },
    { handle: there.handle },
  );
}

async function freeHandle(host: string, path: string): Promise<string> {
  const name = host.replace(/^www\./, '').replace(/\.[^.]+$/, '');
  const base = handleFrom(path === '/' ? name : `${name}${path}`);
  const taken = new Set(
    (await PropertyRow.findAll({ where: { handle: { [Op.startsWith]: base } }, attributes: ['handle'] })).map(
      ({ handle }) => handle,
    ),
  );
  if (!taken.has(base)) return base;
  for (let number = 2; ; number += 1) {
    if (!taken.has(`${base}-${String(number)}`)) return `${base}-${String(number)}`;
  }
}

export interface PropertyQuery {
  readonly client?: string;
  readonly match?: string;
  readonly archived?: boolean;
  readonly after?: string;
  readonly limit?: number;
}

/** Rows of properties by handle, one more than asked for, so that the caller sees whether there are more. */
export async function propertyRows(
  query: PropertyQuery,
): Promise<{ rows: PropertyRow[]; next: string | null }> {
  const limit = query.limit ?? 100;
  const rows = await PropertyRow.findAll({
    where: {
      ...inArchive(query.archived),
      ...(query.client === undefined ? {} : { clientId: (await findClient(query.client)).id }),
      ...(query.after === undefined ? {} : { handle: { [Op.gt]: query.after } }),
      ...(query.match === undefined
        ? {}
        : { [Op.or]: [has('handle', query.match), has('address', query.match)] }),
    },
    order: ['handle'],
    limit: limit + 1,
  });
  const shown = rows.slice(0, limit);
  return { rows: shown, next: rows.length > limit ? (shown.at(-1)?.handle ?? null) : null };
}

export async function listProperties(query: PropertyQuery): Promise<Page<Property>> {
  const { rows, next } = await propertyRows(query);
  const clients = await ClientRow.findAll({
    where: { id: [...new Set(rows.map(({ clientId }) => clientId))] },
  });
  const clientOf = new Map(clients.map((client) => [client.id, client]));
  const items = rows.flatMap((row) => {
    const client = clientOf.get(row.clientId);
    return client ? [view(row, client)] : [];
  });
  return { items, next };
}

export async function showProperty(ref: string): Promise<Property> {
  return viewProperty(await findProperty(ref));
}

export interface PropertyChanges {
  handle?: string;
  /** Whose it is from now on. */
  client?: string;
  facts?: Record<string, string>;
  access?: Access;
  /** The day on which its registered name ends. */
  nameEnds?: string | null;
  /** How often what of it is looked at; null where as usual. */
  rhythms?: Partial<Record<Watched, string | null>>;
}

/** @param expected version by If-Match, if the caller sent one */
export async function editProperty(
  desk: Desk,
  actor: Actor,
  ref: string,
  changes: PropertyChanges,
  expected: Expected = null,
): Promise<Property> {
  const { id } = await findProperty(ref, EXACT);
  const { handle, facts, access, rhythms, nameEnds } = changes;
  const client = changes.client === undefined ? null : await findClient(changes.client, EXACT);
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        const current = await PropertyRow.findByPk(id, { transaction, rejectOnEmpty: true });
        requireVersion(current.version, expected);
        const before = current.handle;
        await current.update(
          {
            ...given({ handle }),
            ...(client === null ? {} : { clientId: client.id }),
            ...(facts === undefined ? {} : { facts: { ...current.facts, ...facts } }),
            ...(access === undefined ? {} : { access: { ...current.access, ...access } }),
            ...given({ nameEnds }),
            ...(rhythms === undefined ? {} : { rhythms: withChanges(current.rhythms, rhythms) }),
            version: current.version + 1,
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'property.edited',
          says: editSays(before, changes, client?.name ?? null),
          property: current,
          details: changes,
        });
        return current;
      }),
    `A property with the handle “${handle ?? ''}” is there already.`,
  );
  return viewProperty(row);
}

function withChanges(
  current: Partial<Rhythms>,
  changes: NonNullable<PropertyChanges['rhythms']>,
): Partial<Rhythms> {
  const all = Object.entries({ ...current, ...changes });
  return Object.fromEntries(all.filter(([, rhythm]) => rhythm !== null));
}

function editSays(
  before: string,
  { handle, facts, access, rhythms, nameEnds }: PropertyChanges,
  client: string | null,
): string {
  const told = Object.entries({ ...facts, ...access }).map(([fact, answer]) => `${fact} ${answer}`);
  return [
    handle === undefined ? '' : `${before} is now ${handle}.`,
    client === null ? '' : `${handle ?? before} is ${client}’s now.`,
    nameEnds === undefined
      ? ''
      : nameEnds === null
        ? `Nobody knows when the name of ${handle ?? before} ends.`
        : `The name of ${handle ?? before} ends on ${nameEnds}, as its owner said.`,
    ...Object.entries(rhythms ?? {}).map(([what, rhythm]) =>
      rhythm === null
        ? `${handle ?? before}: ${what} as usual from now on.`
        : `${handle ?? before}: ${what} every ${durationWords(durationMs(rhythm))}.`,
    ),
    told.length === 0 ? '' : `Told of ${handle ?? before}: ${told.join(', ')}.`,
  ]
    .filter((says) => says !== '')
    .join(' ');
}

/** Keeps what engines ask about a property at registration, so that it is asked for once. */
export async function rememberFacts(
  desk: Desk,
  actor: Actor,
  propertyId: string,
  facts: Record<string, string>,
): Promise<void> {
  const known = (await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true })).facts;
  const news = Object.entries(facts).filter(([id, answer]) => known[id] !== answer);
  if (news.length > 0) await editProperty(desk, actor, propertyId, { facts: Object.fromEntries(news) });
}
