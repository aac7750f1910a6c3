import type { Transaction } from 'sequelize';
import type { AlertKind } from '../../core/alerts/alert.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';
import type { AlertValues } from './alerts.js';

/** A case that is of no one property, as it is now. */
export interface AgencyAlert {
  /** Tells causes of one kind apart; the same as long as it is the same cause. */
  readonly cause: string;
  readonly since: string;
  readonly says: string;
  readonly acts: 'us' | 'engine' | 'client';
  readonly until: string | null;
  readonly touches: readonly string[];
  readonly isAtOnce: boolean;
}

/** Opens cases of a kind that have come, words those that go on, and ends those that are over. Safe to be done again with the same. */
export async function keepAgencyAlerts(
  desk: Desk,
  kind: AlertKind,
  cases: readonly AgencyAlert[],
): Promise<void> {
  const now = nowText(desk);
  const open = await desk.store.select<Pick<AlertValues, 'id' | 'cause' | 'says' | 'touches'>>(
    'SELECT id, cause, says, touches FROM cases WHERE kind = $kind AND propertyId IS NULL AND endedAt IS NULL',
    { kind },
  );
  const news = cases.filter((one) => !open.some(({ cause }) => cause === one.cause));
  const over = open.filter(({ cause }) => !cases.some((one) => one.cause === cause));
  const others = cases.flatMap((one) => {
    const row = open.find(({ cause }) => cause === one.cause);
    const touches = JSON.stringify(one.touches);
    const isSame = row === undefined || (row.says === one.says && row.touches === touches);
    return isSame ? [] : [{ id: row.id, says: one.says, touches }];
  });
  if (news.length + over.length + others.length === 0) return;
  await desk.store.writeQuietly(async (transaction) => {
    await desk.store.insert(
      'cases',
      news.map((one) => ({ ...rowOf(kind, one, now) })),
      transaction,
    );
    for (const row of others)
      await desk.store.run(
        'UPDATE cases SET says = $says, touches = $touches WHERE id = $id AND endedAt IS NULL',
        row,
        transaction,
      );
    await endCases(
      desk,
      over.map(({ id }) => id),
      transaction,
    );
  });
}

/** Opens one. */
export async function openAgencyAlert(
  desk: Desk,
  kind: AlertKind,
  one: AgencyAlert,
  transaction: Transaction,
): Promise<void> {
  await desk.store.insert('cases', [{ ...rowOf(kind, one, nowText(desk)) }], transaction);
}

/** Ends one, well. */
export async function resolveAgencyAlert(
  desk: Desk,
  { kind, cause }: { readonly kind: AlertKind; readonly cause: string },
  transaction: Transaction,
): Promise<void> {
  const open = await desk.store.select<{ id: string }>(
    'SELECT id FROM cases WHERE kind = $kind AND cause = $cause AND propertyId IS NULL AND endedAt IS NULL',
    { kind, cause },
    transaction,
  );
  await endCases(
    desk,
    open.map(({ id }) => id),
    transaction,
  );
}

async function endCases(desk: Desk, ids: readonly string[], transaction: Transaction): Promise<void> {
  await desk.store.run(
    `UPDATE cases SET endedAt = $now, mended = 1 WHERE id IN (SELECT value FROM json_each($ids)) AND endedAt IS NULL`,
    { now: nowText(desk), ids: JSON.stringify(ids) },
    transaction,
  );
}

function rowOf(kind: AlertKind, { isAtOnce, touches, ...one }: AgencyAlert, now: string): AlertValues {
  return {
    ...{ id: newId(), propertyId: null, clientId: null, kind, ...one, remedy: '', place: null },
    ...{ touches: JSON.stringify(touches), difference: '[]', atOnce: isAtOnce ? 1 : 0, openedAt: now },
    ...{ endedAt: null, mended: null, toldAt: null, endToldAt: null },
  };
}
