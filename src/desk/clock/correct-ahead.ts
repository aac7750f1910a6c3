import type { Transaction } from 'sequelize';
import { nextReportAt } from '../../core/alerts/digest-time.js';
import { nowText, type Desk } from '../context/desk.js';
import type { ReportValues } from '../reports/orders.js';

/**
 * When something was done or seen last, by table: of what lies ahead nobody knows when it was, and the next time is reckoned from it. The
 * journal keeps what it said, and what is to end keeps its end.
 */
const DONE_AT: Readonly<Record<string, readonly string[]>> = {
  checks: ['checkedAt', 'seenSince', 'toldSince', 'firstAt'],
  readings: ['at', 'firstAt'],
  engine_readings: ['at', 'firstAt'],
  ownerships: ['at'],
  claims: ['askedAt'],
  submissions: ['askedAt'],
  enrolments: ['askedAt', 'engineLookedAt', 'missingSince'],
  properties: ['variantsAt', 'frontDoorAt'],
  variants: ['since', 'seenAt'],
  variant_findings: ['since'],
  makings: ['startedAt'],
  made_versions: ['at'],
  cases: ['since', 'openedAt', 'endedAt'],
  news: ['at'],
  link_news: ['at'],
  outages: ['since', 'until'],
  tellings: ['upTo'],
  watch_tries: ['notBefore'],
  shared_uses: ['at'],
};

/**
 * Sets times that lie ahead to now, where something is reckoned from them: after a clock that was ahead nothing stays unlooked at until
 * that time comes.
 * @returns how many rows it changed
 */
export async function correctAhead(desk: Desk, transaction: Transaction): Promise<number> {
  const { store } = desk;
  const now = nowText(desk);
  let count = await store.change(
    `UPDATE recipes SET nextAt = $now WHERE nextAt > $now AND propertyId IN (SELECT propertyId FROM makings WHERE startedAt > $now)`,
    { now },
    transaction,
  );
  count += await store.change(
    'UPDATE messages SET nextAt = $now WHERE nextAt > $now AND createdAt > $now',
    { now },
    transaction,
  );
  count += await reportsAgain(desk, transaction);
  for (const [table, columns] of Object.entries(DONE_AT))
    count += await store.change(
      `UPDATE ${table} SET ${columns.map((one) => `${one} = iif(${one} > $now, $now, ${one})`).join(', ')}
        WHERE ${columns.map((one) => `${one} > $now`).join(' OR ')}`,
      { now },
      transaction,
    );
  return count;
}

async function reportsAgain(desk: Desk, transaction: Transaction): Promise<number> {
  const now = nowText(desk);
  const rows = await desk.store.select<ReportValues>(
    'SELECT * FROM reports WHERE upTo > $now AND endedAt IS NULL',
    { now },
    transaction,
  );
  for (const { id, every, clock, zone } of rows)
    await desk.store.run(
      'UPDATE reports SET upTo = $now, nextAt = $next WHERE id = $id',
      { id, now, next: nextReportAt(new Date(now), { every, clock, zone }).toISOString() },
      transaction,
    );
  return rows.length;
}
