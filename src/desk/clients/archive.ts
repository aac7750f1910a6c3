import { col, fn, Op, where, type Transaction } from 'sequelize';
import { counted } from '../../api/plural.js';
import type { Client, Property } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { readPaste } from '../../core/address/paste.js';
import { addressText } from '../../core/address/web-address.js';
import { isHeld } from '../../core/variants/cover.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { endedAbout, nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { handlesPutAway, inArchive, onlyOne, putAway, takenOut } from '../context/put-away.js';
import { findClient } from '../context/client-refs.js';
import { EXACT, findProperty } from '../context/references.js';
import { unlessTaken } from '../context/versions.js';
import { enrolmentFacts } from '../facts/enrolment-facts.js';
import { viewClient } from './clients.js';
import { viewProperty } from './properties.js';

/**
 * Puts a property away. Its records stay; its address and its handle are free again.
 * @param anyway whether also one that holds badges is put away
 * Throws Problem `holds-badges`.
 */
export async function archiveProperty(desk: Desk, actor: Actor, ref: string, anyway: boolean): Promise<void> {
  const property = await findProperty(ref, EXACT);
  const held = anyway ? [] : await heldFor(desk, property.id);
  if (held.length > 0)
    throw new Problem('holds-badges', { property: property.handle, held: held.join(', ') }, { held });
  await desk.store.write(async (transaction) => {
    const current = await PropertyRow.findByPk(property.id, { transaction, rejectOnEmpty: true });
    const { handle } = current;
    await current.update(
      { ...putAway(current), archivedAt: nowText(desk), version: current.version + 1 },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'property.archived',
      says: `${handle} was archived.`,
      property: current,
    });
  });
  await endedAbout(desk, [property.id]);
}

/** The names of the enrolments whose badges the engines honour. */
async function heldFor(desk: Desk, propertyId: string): Promise<string[]> {
  const rows = await EnrolmentRow.findAll({
    where: { propertyId, endedAt: null },
    order: ['engine', 'reach', 'createdAt'],
  });
  const known = rows.filter(({ engine }) => desk.book.profiles.has(engine));
  return (await enrolmentFacts(desk, known))
    .filter(({ standing }) => isHeld(standing))
    .map(({ name }) => name);
}

/** Takes a property back out of the archive, by the handle or address that it had. Throws Problem. */
export async function restoreProperty(desk: Desk, actor: Actor, ref: string): Promise<Property> {
  const archived = await findArchived(ref);
  const client = await ClientRow.findByPk(archived.clientId, { rejectOnEmpty: true });
  if (client.archivedAt != null)
    throw new Problem('client-archived', { property: takenOut(archived), client: client.name });
  const row = await unlessTaken(
    () =>
      desk.store.write(async (transaction) => {
        await requireKept(desk, { clientId: archived.clientId, propertyId: archived.id }, transaction);
        const current = await PropertyRow.findByPk(archived.id, { transaction, rejectOnEmpty: true });
        const handle = takenOut(current);
        const isTaken = await PropertyRow.count({ where: { handle }, transaction });
        await current.update(
          {
            handle: isTaken > 0 ? `${handle}-${current.id.slice(-6)}` : handle,
            archivedAt: null,
            version: current.version + 1,
          },
          { transaction },
        );
        await note(desk, actor, transaction, {
          kind: 'property.restored',
          says: `${current.handle} was restored.`,
          property: current,
        });
        return current;
      }),
    `${archived.address} was taken on again meanwhile: archive that property first.`,
  );
  return viewProperty(row);
}

async function findArchived(ref: string): Promise<PropertyRow> {
  const paste = readPaste(ref);
  const found = await PropertyRow.findAll({
    where: {
      [Op.or]: [
        { id: ref },
        ...handlesPutAway(ref),
        ...(paste.kind === 'address' ? [{ address: addressText(paste.address) }] : []),
      ],
      ...inArchive(true),
    },
    order: [['archivedAt', 'DESC']],
    limit: 6,
  });
  const archived = onlyOne(
    ref,
    found,
    ({ handle, archivedAt }) => `${handle} (archived ${archivedAt ?? ''})`,
  );
  if (archived) return archived;
  throw new Problem('not-archived', { what: (await findProperty(ref, EXACT)).handle });
}

/** Properties that are named where something is refused on account of them. */
const NAMED = 5;

/**
 * Puts a client away. Its records stay; its handle is free again.
 * @param anyway whether its properties go with it, and whatever badges they hold
 * Throws Problem `has-properties`.
 */
export async function archiveClient(desk: Desk, actor: Actor, ref: string, anyway: boolean): Promise<void> {
  const client = await findClient(ref, EXACT);
  const properties = await PropertyRow.findAll({
    where: { clientId: client.id, archivedAt: null },
    order: ['handle'],
  });
  if (properties.length > 0 && !anyway)
    throw new Problem('has-properties', {
      client: client.name,
      count: counted(properties.length, 'property', 'properties'),
      properties: `${properties
        .slice(0, NAMED)
        .map(({ handle }) => handle)
        .join(', ')}${properties.length > NAMED ? ', …' : ''}`,
    });
  for (const { id } of properties) await archiveProperty(desk, actor, id, true);
  await desk.store.write(async (transaction) => {
    const current = await ClientRow.findByPk(client.id, { transaction, rejectOnEmpty: true });
    await current.update(
      { ...putAway(current), archivedAt: nowText(desk), version: current.version + 1 },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'client.archived',
      says: `Client ${client.name} was archived.`,
      clientId: client.id,
    });
  });
}

/** Takes a client back out of the archive. Its properties stay there: each is a decision of its own. Throws Problem. */
export async function restoreClient(desk: Desk, actor: Actor, ref: string): Promise<Client> {
  const archived = await findArchivedClient(ref);
  const row = await desk.store.write(async (transaction) => {
    await requireKept(desk, { clientId: archived.id, propertyId: null }, transaction);
    const current = await ClientRow.findByPk(archived.id, { transaction, rejectOnEmpty: true });
    const handle = takenOut(current);
    const isTaken = await ClientRow.count({ where: { handle }, transaction });
    await current.update(
      {
        handle: isTaken > 0 ? current.handle : handle,
        archivedAt: null,
        version: current.version + 1,
      },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'client.restored',
      says: `Client ${current.name} was restored.`,
      clientId: current.id,
    });
    return current;
  });
  return viewClient(desk, row);
}

/** Throws Problem where the records are being deleted, or are about to be: what is taken out of the archive would be lost with them. */
async function requireKept(
  desk: Desk,
  which: { readonly clientId: string; readonly propertyId: string | null },
  transaction: Transaction,
): Promise<void> {
  const [job] = await desk.store.select<{ id: string }>(
    `SELECT j.id FROM jobs j JOIN job_items i ON i.jobId = j.id WHERE j.kind = 'delete-client' AND j.state <> 'done'
        AND i.input->>'clientId' = $clientId
        AND (i.input->>'propertyId' IS NULL OR i.input->>'propertyId' = $propertyId) LIMIT 1`,
    which,
    transaction,
  );
  if (job) throw new Problem('being-deleted', { job: job.id });
}

/** A client in the archive, by identifier, name, or the handle that it had. Throws Problem. */
export async function findArchivedClient(ref: string): Promise<ClientRow> {
  const found = await ClientRow.findAll({
    where: {
      [Op.or]: [
        { id: ref },
        ...handlesPutAway(ref),
        where(fn('lower', col('name')), ref.trim().toLowerCase()),
      ],
      ...inArchive(true),
    },
    order: [['archivedAt', 'DESC']],
    limit: 6,
  });
  const archived = onlyOne(ref, found, ({ handle, name }) => `${handle} (${name})`);
  if (archived) return archived;
  const { name } = await findClient(ref, EXACT);
  throw new Problem('not-archived', { what: name });
}
