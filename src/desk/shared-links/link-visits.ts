import type { Transaction } from 'sequelize';
import { MINUTE } from '../../core/time/duration.js';
import { linkMessage, type LinkAnswer } from '../../core/alerts/message.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';
import { writeMessage } from '../outbox/messages.js';
import { recipients } from '../outbox/recipients.js';

/** One visit opens, has us look and sends word: it is told together once nothing more came for so long, or at the latest after so long. */
const VISIT_OVER_AFTER = 3 * MINUTE;
const TOLD_WITHIN = 15 * MINUTE;
const MOST_AT_ONCE = 500;

/** Writes down what whoever made a link is to be told of it. */
export async function keepForMaker(
  desk: Desk,
  link: { readonly id: string },
  says: string,
  transaction: Transaction,
): Promise<void> {
  await desk.store.insert(
    'link_news',
    [{ id: newId(), linkId: link.id, says, at: nowText(desk), toldAt: null }],
    transaction,
  );
}

interface Row extends LinkAnswer {
  readonly id: string;
  readonly linkId: string;
  readonly personId: string | null;
}

/** Tells whoever made links what was heard by them, each visit in one mail. @param base where the console is, without a slash at its end */
export async function notifyVisits(desk: Desk, base: string): Promise<void> {
  const now = desk.clock.now().getTime();
  const [any] = await desk.store.select(
    `SELECT 1 FROM link_news WHERE toldAt IS NULL
      GROUP BY linkId HAVING MAX(at) <= $quiet OR MIN(at) <= $latest LIMIT 1`,
    timesBefore(now),
  );
  if (!any) return;
  const people = desk.sendsMail ? await recipients(desk) : [];
  await desk.store.writeQuietly(async (transaction) => {
    const rows = await desk.store.select<Row>(
      `SELECT n.id, n.linkId, n.says, n.at, l.personId, l.word, p.handle AS property, k.name AS client FROM link_news n
         JOIN shared_links l ON l.id = n.linkId JOIN clients k ON k.id = l.clientId LEFT JOIN properties p ON p.id = l.propertyId
        WHERE n.toldAt IS NULL AND n.linkId IN (SELECT linkId FROM link_news WHERE toldAt IS NULL
          GROUP BY linkId HAVING MAX(at) <= $quiet OR MIN(at) <= $latest)
        ORDER BY n.at, n.id LIMIT ${String(MOST_AT_ONCE)}`,
      timesBefore(now),
      transaction,
    );
    for (const { personId, email, zone } of people) {
      const own = rows.filter((row) => row.personId === personId);
      if (own.length === 0 || email == null) continue;
      const { subject, ...body } = linkMessage(own, { base, zone });
      await writeMessage(desk, { way: 'mail', personId, sentTo: email, subject, body }, transaction);
    }
    await desk.store.run(
      'UPDATE link_news SET toldAt = $now WHERE id IN (SELECT value FROM json_each($ids))',
      { now: nowText(desk), ids: JSON.stringify(rows.map(({ id }) => id)) },
      transaction,
    );
  });
}

function timesBefore(now: number): { quiet: string; latest: string } {
  return {
    quiet: new Date(now - VISIT_OVER_AFTER).toISOString(),
    latest: new Date(now - TOLD_WITHIN).toISOString(),
  };
}
