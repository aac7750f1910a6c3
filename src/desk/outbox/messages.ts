import type { Transaction } from 'sequelize';
import type { Page, SentMessage, WholeMessage } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { DAY, HOUR, MINUTE } from '../../core/time/duration.js';
import { newId } from '../../store/ids.js';
import { cursorIn, cursorText } from '../context/cursor.js';
import { withoutCodes } from '../context/link-codes.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';

/** A message on record: written down before it is sent, and when it was taken. */
export interface MessageValues {
  readonly id: string;
  readonly way: 'mail' | 'hook';
  readonly personId: string | null;
  readonly hookId: string | null;
  readonly sentTo: string;
  readonly subject: string;
  /** JSON: text and HTML of a mail; the event of a hook. */
  readonly body: string;
  readonly createdAt: string;
  /** When it is tried next; null where it was sent, or given up. */
  readonly nextAt: string | null;
  readonly tries: number;
  readonly sentAt: string | null;
  readonly deadAt: string | null;
  readonly fault: string | null;
}

/** A message is given up after so long. */
const TRIED_FOR = 2 * DAY;
const LONGEST_PAUSE = 6 * HOUR;

/** Writes a message down: it is sent soon after the transaction. @returns its identifier */
export async function writeMessage(
  desk: Desk,
  {
    way,
    sentTo,
    subject,
    body,
    personId = null,
    hookId = null,
  }: Pick<MessageValues, 'way' | 'sentTo' | 'subject'> & {
    readonly body: object;
    readonly personId?: string | null;
    readonly hookId?: string | null;
  },
  transaction: Transaction,
): Promise<string> {
  const now = nowText(desk);
  const row: MessageValues = {
    ...{ id: newId(), way, personId, hookId, sentTo, subject, body: JSON.stringify(body) },
    ...{ createdAt: now, nextAt: now, tries: 0, sentAt: null, deadAt: null, fault: null },
  };
  await desk.store.insert('messages', [{ ...row }], transaction);
  return row.id;
}

/** Mails whose time has come, oldest first. */
export function dueMails(desk: Desk, most: number): Promise<MessageValues[]> {
  return desk.store.select<MessageValues>(
    `SELECT * FROM messages WHERE nextAt <= $now AND way = 'mail' ORDER BY nextAt, id LIMIT $most`,
    { now: nowText(desk), most },
  );
}

/** Messages to programs whose time has come, of each program the oldest. */
export function dueForPrograms(desk: Desk, each: number): Promise<MessageValues[]> {
  return desk.store.select<MessageValues>(
    `SELECT * FROM (SELECT *, ROW_NUMBER() OVER (PARTITION BY hookId ORDER BY createdAt, id) AS nth FROM messages
        WHERE nextAt <= $now AND way = 'hook') WHERE nth <= $each ORDER BY createdAt, id`,
    { now: nowText(desk), each },
  );
}

/** Writes down what a try came to. */
export async function settleMessage(
  desk: Desk,
  { id, tries, createdAt, body }: MessageValues,
  fault: { readonly says: string; readonly isForGood: boolean } | null,
): Promise<void> {
  const now = desk.clock.now();
  const pause = Math.min(MINUTE * 2 ** tries, LONGEST_PAUSE);
  const next = new Date(now.getTime() + pause);
  const isDead = fault !== null && (fault.isForGood || next.getTime() - Date.parse(createdAt) > TRIED_FOR);
  await desk.store.writeQuietly((transaction) =>
    desk.store.run(
      `UPDATE messages SET tries = tries + 1, sentAt = $sentAt, deadAt = $deadAt, nextAt = $nextAt, fault = $fault, body = $body
        WHERE id = $id AND sentAt IS NULL`,
      {
        id,
        // What opens a link is needed by nobody here once it has gone out.
        body: fault === null ? withoutCodes(body) : body,
        sentAt: fault === null ? now.toISOString() : null,
        deadAt: isDead ? now.toISOString() : null,
        nextAt: fault === null || isDead ? null : next.toISOString(),
        fault: fault?.says ?? null,
      },
      transaction,
    ),
  );
}

export interface MessagesQuery {
  readonly state?: SentMessage['state'];
  readonly after?: string;
  readonly limit?: number;
}

/** What of a message a list shows: all but its body. */
const LINE = [
  ...(['id', 'way', 'sentTo', 'subject', 'createdAt', 'nextAt'] as const),
  ...(['tries', 'sentAt', 'deadAt', 'fault'] as const),
] as const;
type MessageLine = Pick<MessageValues, (typeof LINE)[number]>;

const STATES: Readonly<Record<SentMessage['state'], string>> = {
  sent: 'sentAt IS NOT NULL',
  waiting: 'nextAt IS NOT NULL',
  dead: 'deadAt IS NOT NULL',
};

/** Messages, newest first: whether they were sent. */
export async function listNotifications(desk: Desk, query: MessagesQuery): Promise<Page<SentMessage>> {
  const { limit = 100 } = query;
  const place = query.after === undefined ? null : cursorIn(query.after);
  const where = [
    query.state === undefined ? [] : [STATES[query.state]],
    place === null ? [] : ['(createdAt < $at OR (createdAt = $at AND id > $id))'],
  ].flat();
  const rows = await desk.store.select<MessageLine>(
    `SELECT ${LINE.join(', ')} FROM messages ${where.length === 0 ? '' : `WHERE ${where.join(' AND ')}`} ORDER BY createdAt DESC, id LIMIT $most`,
    { ...place, most: limit + 1 },
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    items: shown.map(view),
    next: last && rows.length > limit ? cursorText({ at: last.createdAt, id: last.id }) : null,
  };
}

function view(row: MessageLine): SentMessage {
  const { id, way, sentTo, subject, createdAt, nextAt, tries, sentAt, deadAt, fault } = row;
  return {
    ...{ id, way, to: sentTo, subject, createdAt, tries, fault },
    state: sentAt !== null ? 'sent' : deadAt === null ? 'waiting' : 'dead',
    at: sentAt ?? deadAt ?? nextAt ?? createdAt,
  };
}

async function messageOf(desk: Desk, id: string): Promise<MessageValues> {
  const [row] = await desk.store.select<MessageValues>('SELECT * FROM messages WHERE id = $id', { id });
  if (!row) throw new Problem('no-such-notification', { ref: id });
  return row;
}

/** One message with its text. Throws Problem. */
export async function showNotification(desk: Desk, id: string): Promise<WholeMessage> {
  const row = await messageOf(desk, id);
  const body = JSON.parse(row.body) as { text?: string };
  return { ...view(row), text: withoutCodes(body.text ?? JSON.stringify(body, null, 2)) };
}

/** Has a message that was given up tried once more. Throws Problem. */
export async function retryNotification(desk: Desk, actor: Actor, id: string): Promise<SentMessage> {
  const row = await messageOf(desk, id);
  if (row.deadAt === null) throw new Problem('not-given-up', { subject: row.subject });
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      'UPDATE messages SET deadAt = NULL, nextAt = $now, createdAt = $now, tries = 0 WHERE id = $id',
      { id, now: nowText(desk) },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'notification.retried',
      says: `“${row.subject}” to ${row.way === 'hook' ? new URL(row.sentTo).origin : row.sentTo} is tried once more.`,
    });
  });
  return view(await messageOf(desk, id));
}
