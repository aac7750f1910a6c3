import type { Handover } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { ClientRow } from '../../store/models/clients.js';
import { archiveClient } from '../clients/archive.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { EXACT } from '../context/references.js';
import { handoverOf, viewHandover, type HandoverValues } from './show.js';

async function begunFor(desk: Desk, ref: string): Promise<{ client: ClientRow; begun: HandoverValues }> {
  const client = await findClient(ref, EXACT);
  const begun = await handoverOf(desk, client.id);
  if (begun?.endedAt !== null)
    throw new Problem('no-handover', { client: client.name, handle: client.handle });
  return { client, begun };
}

/** Begins to hand a client over; one that is under way goes on. Throws Problem. */
export async function beginHandover(desk: Desk, actor: Actor, ref: string): Promise<Handover> {
  const client = await findClient(ref, EXACT);
  const known = await handoverOf(desk, client.id);
  if (known?.endedAt !== null)
    await desk.store.write(async (transaction) => {
      const row: HandoverValues = {
        ...{ id: newId(), clientId: client.id, startedAt: nowText(desk), personId: actor.personId },
        ...{ deleteOn: null, endedAt: null, toldAt: null },
      };
      await desk.store.insert('handovers', [{ ...row }], transaction);
      await note(desk, actor, transaction, {
        kind: 'handover.begun',
        says: `${client.name} is being handed over.`,
        clientId: client.id,
      });
    });
  return viewHandover(desk, client);
}

/** Ticks something off, or takes that back. Throws Problem. */
export async function tickHandover(
  desk: Desk,
  actor: Actor,
  ref: string,
  { item, note: words, undo = false }: { item: string; note?: string; undo?: boolean },
): Promise<Handover> {
  const { client, begun } = await begunFor(desk, ref);
  const { items } = await viewHandover(desk, client);
  const found = items.find((one) => one.item === item);
  if (!found)
    throw new Problem('no-such-item', { item, items: items.map((one) => `“${one.item}”`).join(', ') });
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'DELETE FROM handover_ticks WHERE handoverId = $id AND item = $item',
      { id: begun.id, item },
      transaction,
    );
    if (!undo)
      await desk.store.insert(
        'handover_ticks',
        [{ handoverId: begun.id, item, at: nowText(desk), personId: actor.personId, note: words ?? null }],
        transaction,
      );
    await note(desk, actor, transaction, {
      kind: undo ? 'handover.open-again' : 'handover.ticked',
      says: `${undo ? 'Open again' : 'Done'}: ${found.says}${words === undefined ? '' : ` (${words})`}`,
      clientId: client.id,
    });
  });
  return viewHandover(desk, client);
}

/** Calls it off: the client stays as it is. Throws Problem where none is under way. */
export async function callOffHandover(desk: Desk, actor: Actor, ref: string): Promise<Handover> {
  const { client, begun } = await begunFor(desk, ref);
  await desk.store.write(async (transaction) => {
    await desk.store.run('DELETE FROM handover_ticks WHERE handoverId = $id', { id: begun.id }, transaction);
    await desk.store.run('DELETE FROM handovers WHERE id = $id', { id: begun.id }, transaction);
    await note(desk, actor, transaction, {
      kind: 'handover.called-off',
      says: `The handing over of ${client.name} was called off.`,
      clientId: client.id,
    });
  });
  return viewHandover(desk, client);
}

/**
 * Ends the handing over: the client is archived, so that nothing of it is watched any more.
 * @param input.deleteOn the day on which its records are due to be deleted
 * @param input.anyway although something is open
 * @throws Problem
 */
export async function endHandover(
  desk: Desk,
  actor: Actor,
  ref: string,
  { deleteOn, anyway = false }: { deleteOn?: string; anyway?: boolean },
): Promise<Handover> {
  const { client, begun } = await begunFor(desk, ref);
  const day = deleteOn === undefined ? null : new Date(deleteOn).toISOString();
  if (day !== null && day <= nowText(desk)) throw new Problem('not-to-come', { at: deleteOn ?? '' });
  const { items } = await viewHandover(desk, client);
  const open = items.filter(({ done }) => done === null);
  if (open.length > 0 && !anyway)
    throw new Problem('handover-open', {
      client: client.name,
      count: open.length,
      first: open[0]?.says ?? '',
    });
  await archiveClient(desk, actor, client.id, true);
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'UPDATE handovers SET endedAt = $now, deleteOn = $day WHERE id = $id',
      { id: begun.id, day, now: nowText(desk) },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'handover.ended',
      says: `${client.name} was handed over${day === null ? '' : `; its records are due to be deleted on ${day.slice(0, 10)}`}.`,
      clientId: client.id,
    });
  });
  return viewHandover(desk, await ClientRow.findByPk(client.id, { rejectOnEmpty: true }));
}

/** Clients whose records are due to be deleted are told of once, in the journal. */
export async function tellDeletions(desk: Desk): Promise<void> {
  const due = await desk.store.select<HandoverValues>(
    'SELECT * FROM handovers WHERE deleteOn IS NOT NULL AND toldAt IS NULL AND deleteOn <= $now LIMIT 20',
    { now: nowText(desk) },
  );
  for (const { id, clientId } of due) {
    const client = await ClientRow.findByPk(clientId);
    await desk.store.write(async (transaction) => {
      await desk.store.run(
        'UPDATE handovers SET toldAt = $now WHERE id = $id',
        { id, now: nowText(desk) },
        transaction,
      );
      await note(desk, { personId: null }, transaction, {
        kind: 'handover.delete',
        says: `The records of ${client?.name ?? 'a client'} are due to be deleted today; a lead does so by “client delete”.`,
        clientId,
      });
    });
  }
}
