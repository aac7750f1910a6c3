import type { Watch, WatchedThing } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { DAY, SECOND } from '../../core/time/duration.js';
import type { DueWhy, Watched } from '../../core/watch/rhythm.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Desk } from '../context/desk.js';
import { findProperty } from '../context/references.js';
import type { Projections } from '../projections/projections.js';
import { openOutage } from '../outages/outages.js';
import { NOT_PAUSED, PAUSED_WHY, pausesNow } from '../context/pauses.js';

export interface WatchQuery {
  readonly property?: string;
  readonly client?: string;
  readonly due?: boolean;
  readonly after?: string;
  readonly limit?: number;
}

interface Row {
  readonly id: string;
  readonly what: Watched;
  readonly subject: string;
  readonly propertyId: string;
  readonly handle: string;
  readonly every: number;
  readonly lookedAt: string | null;
  readonly dueAt: string;
  readonly why: DueWhy;
  readonly paused: string | null;
}

/** What is paused is due to nobody. */
const DUE = `w.dueAt <= $now AND ${NOT_PAUSED}`;

/** What is watched, soonest due first, and how the watch is. Throws Problem. */
export async function showWatch(desk: Desk, kept: Projections, query: WatchQuery): Promise<Watch> {
  await kept.current();
  const { store } = desk;
  const now = nowText(desk);
  const { limit = 100 } = query;
  const place = placeIn(query.after);
  const narrow = {
    propertyId: query.property === undefined ? null : (await findProperty(query.property)).id,
    clientId: query.client === undefined ? null : (await findClient(query.client)).id,
  };
  const where = [
    narrow.propertyId === null ? [] : ['w.propertyId = $propertyId'],
    narrow.clientId === null ? [] : ['w.clientId = $clientId'],
    query.due === true ? [DUE] : [],
    place === null ? [] : ['(w.dueAt, w.id) > ($dueAt, $id)'],
  ].flat();
  const [rows, counts, [next], pauses, cutOff, pastDay] = await Promise.all([
    store.select<Row>(
      `SELECT w.id, w.what, w.subject, w.propertyId, w.handle, w.every, w.lookedAt, w.dueAt, w.why, ${PAUSED_WHY} AS paused
         FROM watched w ${where.length === 0 ? '' : `WHERE ${where.join(' AND ')}`} ORDER BY w.dueAt, w.id LIMIT $most`,
      { ...narrow, ...place, now, most: limit + 1 },
    ),
    countsOf(desk, now),
    store.select<{ at: string | null }>('SELECT MIN(dueAt) AS at FROM watched'),
    pausesNow(desk),
    openOutage(desk),
    pastDayOf(desk),
  ]);
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    asOf: now,
    on: desk.watch.on,
    items: shown.map(view),
    next: last && rows.length > limit ? `${last.dueAt} ${last.id}` : null,
    counts,
    nextAt: next?.at ?? null,
    pauses,
    cutOff: cutOff && { since: cutOff.since, says: cutOff.says },
    pastDay,
  };
}

function view(row: Row): WatchedThing {
  const { id, what, subject, propertyId, handle, every, lookedAt, dueAt, why, paused } = row;
  return {
    ...{ id, what, subject, property: { id: propertyId, handle }, every: Math.round(every / SECOND) },
    ...{ lookedAt, dueAt, why, paused },
  };
}

function placeIn(after: string | undefined): { dueAt: string; id: string } | null {
  if (after === undefined) return null;
  const [dueAt = '', ...id] = after.split(' ');
  if (Number.isNaN(Date.parse(dueAt)) || id.length === 0) throw new Problem('bad-cursor');
  return { dueAt, id: id.join(' ') };
}

async function countsOf({ store }: Desk, now: string): Promise<Record<string, number>> {
  const [kinds, [due], [open]] = await Promise.all([
    store.select<{ what: string; count: number }>(
      'SELECT what, COUNT(*) AS count FROM watched GROUP BY what',
    ),
    store.select<{ count: number }>(`SELECT COUNT(*) AS count FROM watched w WHERE ${DUE}`, { now }),
    store.select<{ count: number }>(
      `SELECT COALESCE(SUM(total - finished), 0) AS count FROM jobs
        WHERE kind IN ('watch', 'watch-read') AND state IN ('waiting', 'running')`,
    ),
  ]);
  return {
    ...Object.fromEntries(kinds.map(({ what, count }) => [what, count])),
    due: due?.count ?? 0,
    underWay: open?.count ?? 0,
  };
}

/** What the looks of the past day came to, and how late they were. */
async function pastDayOf({ store, clock }: Desk): Promise<Watch['pastDay']> {
  const since = new Date(clock.now().getTime() - DAY).toISOString();
  const late = `(julianday(i.finishedAt) - julianday(i.input->>'dueAt')) * 86400`;
  const rows = await store.select<{ late: number; state: string }>(
    `SELECT ${late} AS late, i.state FROM jobs j JOIN job_items i ON i.jobId = j.id
      WHERE j.kind IN ('watch', 'watch-read') AND j.createdAt >= $since AND i.finishedAt IS NOT NULL ORDER BY late`,
    { since },
  );
  return {
    looks: rows.length,
    failed: rows.filter(({ state }) => state === 'failed').length,
    lateMedian: Math.max(0, Math.round(rows[Math.floor(rows.length / 2)]?.late ?? 0)),
    lateMost: Math.max(0, Math.round(rows.at(-1)?.late ?? 0)),
  };
}
