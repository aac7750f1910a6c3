import type { Alert, Alerts } from '../../api/documents.js';
import type { Acts } from '../../core/worklist/kinds.js';
import { findClient } from '../context/client-refs.js';
import { cursorIn, cursorText } from '../context/cursor.js';
import type { Desk } from '../context/desk.js';
import { findProperty } from '../context/references.js';
import type { Projections } from '../projections/projections.js';
import type { AlertValues } from '../alerts/alerts.js';

export interface AlertsQuery {
  readonly property?: string;
  readonly client?: string;
  readonly kind?: string;
  /** Those that are resolved, newest first, in place of those that are open. */
  readonly resolved?: boolean;
  readonly after?: string;
  readonly limit?: number;
}

type Row = AlertValues & { readonly handle: string | null; readonly client: string | null };

/** The alerts, newest first: open, or resolved. Throws Problem. */
export async function listAlerts(desk: Desk, kept: Projections, query: AlertsQuery): Promise<Alerts> {
  await kept.current();
  const { limit = 100, resolved = false } = query;
  const at = resolved ? 'c.endedAt' : 'c.openedAt';
  const place = query.after === undefined ? null : cursorIn(query.after);
  const narrow = {
    propertyId: query.property === undefined ? null : (await findProperty(query.property)).id,
    clientId: query.client === undefined ? null : (await findClient(query.client)).id,
  };
  const where = [
    `c.endedAt IS ${resolved ? 'NOT NULL' : 'NULL'}`,
    ...(narrow.propertyId === null ? [] : ['c.propertyId = $propertyId']),
    ...(narrow.clientId === null ? [] : ['c.clientId = $clientId']),
    ...(query.kind === undefined ? [] : ['c.kind = $kind']),
  ];
  const behind = place === null ? [] : [`(${at} < $at OR (${at} = $at AND c.id > $id))`];
  const values = { ...narrow, kind: query.kind ?? null };
  const [rows, counts] = await Promise.all([
    desk.store.select<Row>(
      `SELECT c.*, p.handle AS handle, k.handle AS client FROM cases c
         LEFT JOIN properties p ON p.id = c.propertyId LEFT JOIN clients k ON k.id = c.clientId
        WHERE ${[...where, ...behind].join(' AND ')} ORDER BY ${at} DESC, c.id LIMIT $most`,
      { ...values, ...place, most: limit + 1 },
    ),
    desk.store.select<{ kind: string; count: number }>(
      `SELECT c.kind, COUNT(*) AS count FROM cases c WHERE ${where.join(' AND ')} GROUP BY c.kind`,
      values,
    ),
  ]);
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    items: shown.map(view),
    next:
      last && rows.length > limit
        ? cursorText({ at: (resolved ? last.endedAt : last.openedAt) ?? last.openedAt, id: last.id })
        : null,
    counts: Object.fromEntries(counts.map(({ kind, count }) => [kind, count])),
  };
}

function view(row: Row): Alert {
  const { id, kind, since, says, remedy, acts, until, openedAt, endedAt, mended, toldAt } = row;
  return {
    ...{ id, kind, property: row.handle, client: row.client, since, says, remedy, acts: acts as Acts, until },
    touches: JSON.parse(row.touches) as string[],
    difference: JSON.parse(row.difference) as string[],
    ...{ openedAt, endedAt, mended: mended === null ? null : mended === 1 },
    notifiedAt: toldAt,
  };
}
