import type { Transaction } from 'sequelize';
import type { Target, NewTarget } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { CarriedRow, TargetRow } from '../../store/models/publishing.js';
import { PropertyRow } from '../../store/models/clients.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { EXACT, findProperty } from '../context/references.js';
import { atOf, PORTS, requireFingerprint, requireSecret } from './target-input.js';
import { given } from '../../api/given.js';

/** Where a target is, in words. */
export function targetSays({ way, at }: Pick<TargetRow, 'way' | 'at'>): string {
  const port = at.port === undefined || at.port === PORTS[way] ? '' : `:${String(at.port)}`;
  switch (way) {
    case 'folder':
      return at.root ?? '';
    case 'sftp':
    case 'ftps':
    case 'webdav':
      return `${way}://${at.user ?? ''}@${at.host ?? ''}${port}${(at.root ?? '').startsWith('/') ? '' : '/~/'}${at.root ?? ''}`;
    case 'dns':
      return `zone ${at.zone ?? ''} at ${at.host ?? ''}${port}, key ${at.keyName ?? ''}`;
  }
}

export function viewTarget(row: TargetRow): Target {
  return {
    id: row.id,
    way: row.way,
    says: targetSays(row),
    hasSecret: row.secret != null,
    pin: row.pin ?? null,
    pinnedAt: row.pinnedAt ?? null,
    role: row.role,
    watchMay: row.watchMay,
    createdAt: row.createdAt,
  };
}

export function targetsOf(propertyId: string, transaction: Transaction | null = null): Promise<TargetRow[]> {
  return TargetRow.findAll({
    where: { propertyId, endedAt: null },
    order: ['createdAt', 'id'],
    transaction,
  });
}

export async function listTargets(ref: string): Promise<{ items: Target[] }> {
  return { items: (await targetsOf((await findProperty(ref)).id)).map(viewTarget) };
}

/** The secret is bound to where it goes: of a target whose address was changed in the records it opens nothing. */
export function boundTo(row: Pick<TargetRow, 'way' | 'at'>): string {
  return `${row.way} ${targetSays(row)}`;
}

/** Records a target. Throws Problem. */
export async function addTarget(desk: Desk, actor: Actor, ref: string, given: NewTarget): Promise<Target> {
  const property = await findProperty(ref, EXACT);
  const { way, secret, role = 'consultant', watchMay = false } = given;
  const at = await atOf(desk, given);
  const says = targetSays({ way, at });
  const id = newId();
  const sealed =
    secret === undefined ? null : desk.book.requireVault().seal(secret, id, boundTo({ way, at }));
  const row = await desk.store.write(async (transaction) => {
    if ((await targetsOf(property.id, transaction)).some((one) => targetSays(one) === says))
      throw new Problem('target-known', { target: says, property: property.handle });
    const made = await TargetRow.create(
      {
        id,
        propertyId: property.id,
        way,
        at,
        secret: sealed,
        role,
        watchMay,
        createdAt: nowText(desk),
        personId: actor.personId,
      },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'publish.target',
      says: `A target of ${property.handle} was recorded: ${targetSays(made)}.`,
      property,
    });
    return made;
  });
  return viewTarget(row);
}

async function targetBy(id: string): Promise<TargetRow> {
  const row = await TargetRow.findOne({ where: { id, endedAt: null } });
  if (!row) throw new Problem('no-such-target', { ref: id });
  return row;
}

/** Changes what is recorded of a target. Throws Problem. */
export async function editTarget(
  desk: Desk,
  actor: Actor,
  id: string,
  edit: { trust?: string; secret?: string; watchMay?: boolean; role?: 'lead' | 'consultant' },
): Promise<Target> {
  const row = await targetBy(id);
  if (edit.trust !== undefined) requireFingerprint(row.way, edit.trust);
  if (edit.secret !== undefined) requireSecret(row.way, edit.secret);
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    await row.update(
      {
        ...(edit.trust === undefined ? {} : { pin: edit.trust, pinnedAt: nowText(desk) }),
        ...(edit.secret === undefined
          ? {}
          : { secret: desk.book.requireVault().seal(edit.secret, row.id, boundTo(row)) }),
        ...given({ watchMay: edit.watchMay, role: edit.role }),
      },
      { transaction },
    );
    const what = edit.trust === undefined ? Object.keys(edit).join(', ') : `its key is ${edit.trust} now`;
    await note(desk, actor, transaction, {
      kind: 'publish.target',
      says: `The target ${targetSays(row)} of ${property.handle} was changed: ${what}.`,
      property,
    });
  });
  return viewTarget(row);
}

/** Forgets a target with its secret. Throws Problem. */
export async function endTarget(desk: Desk, actor: Actor, id: string): Promise<void> {
  const row = await targetBy(id);
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    await row.update({ endedAt: nowText(desk), secret: null }, { transaction });
    await CarriedRow.update(
      { removedAt: nowText(desk) },
      { where: { placeId: id, removedAt: null }, transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'publish.target',
      says: `The target ${targetSays(row)} of ${property.handle} was forgotten; what stands there stays.`,
      property,
    });
  });
}
