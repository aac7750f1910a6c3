import { HOUR } from '../../core/time/duration.js';
import { counted } from '../../api/plural.js';
import type { Desk } from '../context/desk.js';
import { keepAgencyAlerts } from '../alerts/agency-alerts.js';

/** What has not gone out for so long is told where it does not need to go out: on record, and so in the console. */
const UNSENT_AFTER = HOUR;

interface Stuck {
  readonly way: 'mail' | 'hook';
  readonly sentTo: string;
  readonly hookId: string | null;
  readonly count: number;
  readonly since: string;
  readonly fault: string | null;
}

/** Opens a case for whoever is not reached by their messages, and ends it where they are again. Safe to be done again. */
export async function recordUnsent(desk: Desk): Promise<void> {
  const stuck = await desk.store.select<Stuck>(
    `SELECT way, sentTo, hookId, COUNT(*) AS count, MIN(createdAt) AS since, MAX(fault) AS fault FROM messages
      WHERE nextAt IS NOT NULL AND tries > 0 AND createdAt <= $before GROUP BY way, coalesce(hookId, sentTo) LIMIT 100`,
    { before: new Date(desk.clock.now().getTime() - UNSENT_AFTER).toISOString() },
  );
  await keepAgencyAlerts(
    desk,
    'unsent',
    stuck.map((one) => ({
      ...{ cause: `${one.way} ${one.hookId ?? one.sentTo}`, since: one.since, says: saysOf(one) },
      ...{ acts: 'us', until: null, touches: [], isAtOnce: false },
    })),
  );
}

function saysOf({ way, sentTo, count, fault }: Stuck): string {
  const what = way === 'mail' ? counted(count, 'mail', 'mails') : counted(count, 'message', 'messages');
  const to = way === 'mail' ? sentTo : new URL(sentTo).origin;
  return `${what} to ${to} could not be sent for an hour: ${fault ?? 'nobody answers'}`;
}
