import type { Transaction } from 'sequelize';
import { durationMs } from '../../core/time/duration.js';
import type { Desk } from '../context/desk.js';

/** How long what is over is kept; ISO 8601. */
export interface KeepSettings {
  readonly checks: string;
  /** What looks rest on; that of the newest look at each placement stays. */
  readonly evidence: string;
  readonly jobs: string;
  /** What the pieces of a finished job came to: ten thousand a day would soon be most of the records. */
  readonly pieces: string;
  /** What the watch has done: what it found is among the checks. */
  readonly looks: string;
  /** Messages that were sent or given up. */
  readonly messages: string;
  /** Keys and sessions that have ended. */
  readonly keys: string;
}

/** Rows that are let go in one transaction, so that no writer waits long. */
const AT_ONCE = 500;

/** What is let go, and which of its rows are old enough and needed by nobody. */
const OLD: readonly {
  readonly kept: keyof KeepSettings;
  readonly table: string;
  readonly key: string;
  readonly old: string;
}[] = [
  {
    kept: 'evidence',
    table: 'evidence',
    key: 'rowid',
    old: `at < $before AND checkId NOT IN (SELECT (SELECT n.id FROM checks n WHERE n.tokenId = t.id ORDER BY n.checkedAt DESC LIMIT 1)
             FROM tokens t WHERE t.replacedAt IS NULL)`,
  },
  {
    kept: 'checks',
    table: 'checks',
    key: 'id',
    old: `checkedAt < $before AND id <> (SELECT n.id FROM checks n WHERE n.tokenId = checks.tokenId ORDER BY n.checkedAt DESC LIMIT 1)`,
  },
  {
    kept: 'looks',
    table: 'job_items',
    key: 'id',
    old: `jobId IN (SELECT id FROM jobs WHERE kind IN ('watch','watch-read') AND state = 'done' AND finishedAt < $before)`,
  },
  {
    kept: 'looks',
    table: 'jobs',
    key: 'id',
    old: `kind IN ('watch','watch-read') AND state = 'done' AND finishedAt < $before AND id NOT IN (SELECT jobId FROM job_items)`,
  },
  {
    kept: 'pieces',
    table: 'job_items',
    key: 'id',
    old: `jobId IN (SELECT id FROM jobs WHERE finishedAt < $before)`,
  },
  {
    kept: 'jobs',
    table: 'jobs',
    key: 'id',
    old: `finishedAt < $before AND id NOT IN (SELECT jobId FROM job_items) AND id NOT IN (SELECT jobId FROM replays WHERE jobId IS NOT NULL)`,
  },
  { kept: 'messages', table: 'messages', key: 'id', old: `createdAt < $before AND nextAt IS NULL` },
  { kept: 'messages', table: 'news', key: 'id', old: `at < $before AND toldAt IS NOT NULL` },
  { kept: 'checks', table: 'cases', key: 'id', old: `endedAt < $before AND endToldAt IS NOT NULL` },
  { kept: 'keys', table: 'keys', key: 'id', old: `coalesce(endedAt, expiresAt) < $before` },
];

/** Lets go what is older than it is to be kept, a little at a time. @returns how many rows went */
export async function letGo(desk: Desk, keep: KeepSettings): Promise<number> {
  let gone = 0;
  for (const { kept, table, key, old } of OLD) {
    const before = new Date(desk.clock.now().getTime() - durationMs(keep[kept])).toISOString();
    const slice = (transaction: Transaction) =>
      desk.store.change(
        `DELETE FROM ${table} WHERE ${key} IN (SELECT ${key} FROM ${table} WHERE ${old} LIMIT ${String(AT_ONCE)})`,
        { before },
        transaction,
      );
    let went = AT_ONCE;
    while (went === AT_ONCE) {
      went = await desk.store.write(slice);
      gone += went;
    }
  }
  return gone;
}
