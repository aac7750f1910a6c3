import { NO_REASON } from './no-reason.js';
import type { Pause } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import { newId } from '../../store/ids.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { findClient } from './client-refs.js';
import { nowText, type Actor, type Desk } from './desk.js';
import { note, personNames } from './journal.js';
import { EXACT, findProperty } from './references.js';

/** What a pause is of: one property, all of a client, or everything. */
export interface PauseOf {
  readonly property?: string;
  readonly client?: string;
  readonly all?: boolean;
}

interface PauseValues {
  readonly id: string;
  readonly propertyId: string | null;
  readonly clientId: string | null;
  readonly why: string;
  readonly since: string;
  readonly until: string | null;
  readonly personId: string | null;
  readonly endedAt: string | null;
}

/** A pause that is in force at `:now`, of something of the property and client of the row `w`. */
const IN_FORCE = `p.endedAt IS NULL AND (p.until IS NULL OR p.until > $now) AND
  (p.propertyId = w.propertyId OR p.clientId = w.clientId OR (p.propertyId IS NULL AND p.clientId IS NULL))`;

/** Whether a row `w` of what is watched is looked at at `:now`. */
export const NOT_PAUSED = `NOT EXISTS (SELECT 1 FROM pauses p WHERE ${IN_FORCE})`;
/** Why it is not, or null. */
export const PAUSED_WHY = `(SELECT p.why FROM pauses p WHERE ${IN_FORCE} ORDER BY p.since LIMIT 1)`;

interface Named extends Pick<PauseValues, 'propertyId' | 'clientId'> {
  readonly property?: PropertyRow;
  readonly says: string;
}

async function named({ property, client }: PauseOf): Promise<Named> {
  if (property !== undefined) {
    const row = await findProperty(property, EXACT);
    return { propertyId: row.id, clientId: null, property: row, says: row.handle };
  }
  if (client !== undefined) {
    const row = await findClient(client, EXACT);
    return { propertyId: null, clientId: row.id, says: row.name };
  }
  return { propertyId: null, clientId: null, says: 'everything' };
}

/** Has something left alone for a while. Throws Problem. */
export async function pauseWatch(
  desk: Desk,
  actor: Actor,
  { why = NO_REASON, until, ...of }: PauseOf & { readonly why?: string; readonly until?: string },
): Promise<Pause> {
  const what = await named(of);
  const since = nowText(desk);
  const end = until === undefined ? null : new Date(until).toISOString();
  if (end !== null && end <= since) throw new Problem('not-to-come', { at: until ?? '' });
  const row: PauseValues = {
    ...{ id: newId(), propertyId: what.propertyId, clientId: what.clientId, why, since, until: end },
    ...{ personId: actor.personId, endedAt: null },
  };
  await desk.store.write(async (transaction) => {
    await desk.store.insert('pauses', [{ ...row }], transaction);
    await note(desk, actor, transaction, {
      kind: 'watch.paused',
      says: `The watch leaves ${what.says} alone${end === null ? '' : ` until ${writtenMinute(end)}`}: ${why}.`,
      ...(what.property ? { property: what.property } : {}),
      ...(what.clientId === null ? {} : { clientId: what.clientId }),
    });
  });
  const [pause] = await view([row]);
  if (!pause) throw new Error('what was just written is there');
  return pause;
}

/** Ends the pauses of just that. @returns those that were ended; throws Problem where there was none */
export async function resumeWatch(desk: Desk, actor: Actor, of: PauseOf): Promise<{ items: Pause[] }> {
  const what = await named(of);
  const ended = await desk.store.write(async (transaction) => {
    const rows = await desk.store.select<PauseValues>(
      `SELECT * FROM pauses WHERE endedAt IS NULL AND (until IS NULL OR until > $now)
         AND propertyId IS $propertyId AND clientId IS $clientId`,
      { now: nowText(desk), propertyId: what.propertyId, clientId: what.clientId },
      transaction,
    );
    if (rows.length === 0) throw new Problem('not-paused', { what: what.says });
    await desk.store.run(
      'UPDATE pauses SET endedAt = $now WHERE id IN (SELECT value FROM json_each($ids))',
      { now: nowText(desk), ids: rows.map(({ id }) => id) },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'watch.resumed',
      says: `The watch looks after ${what.says} again.`,
      ...(what.property ? { property: what.property } : {}),
      ...(what.clientId === null ? {} : { clientId: what.clientId }),
    });
    return rows;
  });
  return { items: await view(ended) };
}

/** The pauses that are in force. */
export async function pausesNow(desk: Desk): Promise<Pause[]> {
  const rows = await desk.store.select<PauseValues>(
    'SELECT * FROM pauses WHERE endedAt IS NULL AND (until IS NULL OR until > $now) ORDER BY since, id LIMIT 500',
    { now: nowText(desk) },
  );
  return view(rows);
}

async function view(rows: readonly PauseValues[]): Promise<Pause[]> {
  const [properties, clients, names] = await Promise.all([
    PropertyRow.findAll({ where: { id: rows.flatMap(({ propertyId }) => propertyId ?? []) } }),
    ClientRow.findAll({ where: { id: rows.flatMap(({ clientId }) => clientId ?? []) } }),
    personNames(rows.map(({ personId }) => personId)),
  ]);
  const handleOf = new Map([...properties, ...clients].map(({ id, handle }) => [id, handle]));
  return rows.map(({ id, propertyId, clientId, why, personId, since, until }) => ({
    id,
    property: propertyId === null ? null : (handleOf.get(propertyId) ?? null),
    client: clientId === null ? null : (handleOf.get(clientId) ?? null),
    why,
    who: personId === null ? null : (names.get(personId) ?? null),
    since,
    until,
  }));
}
