import { HOUR } from '../../core/time/duration.js';
import { counted } from '../../api/counted.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';
import type { CaseValues } from './cases.js';

/** What has not gone out for so long is told where it does not need to go out: on record, and so in the console. */
const UNSENT_AFTER = HOUR;

interface Stuck {
  readonly way: 'mail' | 'hook';
  readonly sentTo: string;
  readonly count: number;
  readonly since: string;
  readonly fault: string | null;
}

/** Opens a case for whoever is not reached by their messages, and ends it where they are again. Safe to be done again. */
export async function recordUnsent(desk: Desk): Promise<void> {
  const now = nowText(desk);
  const stuck = await desk.store.select<Stuck>(
    `SELECT way, sentTo, COUNT(*) AS count, MIN(createdAt) AS since, MAX(fault) AS fault FROM messages
      WHERE nextAt IS NOT NULL AND tries > 0 AND createdAt <= :before GROUP BY way, sentTo LIMIT 100`,
    { before: new Date(desk.clock.now().getTime() - UNSENT_AFTER).toISOString() },
  );
  const open = await desk.store.select<{ id: string; cause: string }>(
    `SELECT id, cause FROM cases WHERE kind = 'unsent' AND endedAt IS NULL`,
  );
  const causeOf = ({ way, sentTo }: Stuck) => `${way} ${sentTo}`;
  const news = stuck.filter((one) => !open.some(({ cause }) => cause === causeOf(one)));
  const over = open.filter(({ cause }) => !stuck.some((one) => causeOf(one) === cause));
  if (news.length + over.length === 0) return;
  await desk.store.writeQuietly(async (transaction) => {
    const rows = news.map((one): CaseValues => ({
      ...{ id: newId(), propertyId: null, clientId: null, kind: 'unsent', cause: causeOf(one) },
      ...{ since: one.since, says: saysOf(one), remedy: '', acts: 'us', until: null },
      ...{ touches: '[]', difference: '[]', atOnce: 0, openedAt: now, endedAt: null, mended: null },
      ...{ toldAt: null, endToldAt: null },
    }));
    await desk.store.insert(
      'cases',
      rows.map((row) => ({ ...row })),
      transaction,
    );
    await desk.store.run(
      `UPDATE cases SET endedAt = :now, mended = 1 WHERE id IN (SELECT value FROM json_each(:ids)) AND endedAt IS NULL`,
      { now, ids: JSON.stringify(over.map(({ id }) => id)) },
      transaction,
    );
  });
}

function saysOf({ way, sentTo, count, fault }: Stuck): string {
  const what = way === 'mail' ? counted(count, 'mail', 'mails') : counted(count, 'message', 'messages');
  const to = way === 'mail' ? sentTo : new URL(sentTo).origin;
  return `${what} to ${to} could not be sent for an hour: ${fault ?? 'nobody answers'}`;
}
