import { createHmac, timingSafeEqual } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { NewReport, ReportOrder, ReportShown } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { SheetLanguage } from '../../core/sheet/sentences.js';
import { contactNoted } from '../../core/letter/contact.js';
import { isTimeZone, nextReportAt } from '../../core/alerts/digest-time.js';
import { reportMail } from '../../core/report/mail.js';
import { type ReportRhythm } from '../../core/alerts/digest-time.js';
import type { Message } from '../../core/alerts/message.js';
import { newId } from '../../store/ids.js';
import { ClientRow } from '../../store/models/clients.js';
import { PersonRow } from '../../store/models/people.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Desk } from '../context/desk.js';
import { note, personNames } from '../context/journal.js';
import { EXACT } from '../context/references.js';
import { findPerson, type SignedIn } from '../people/persons.js';
import type { Projections } from '../projections/projections.js';
import type { RecipientValues } from '../outbox/recipients.js';
import { reportFacts } from './facts.js';
import { languageFor } from './kept-reports.js';

/** A report that is sent by itself, as it is on record. */
export interface ReportValues {
  readonly id: string;
  /** Null where it is of all clients. */
  readonly clientId: string | null;
  /** Whom it goes to: a person, or an address. */
  readonly personId: string | null;
  readonly email: string | null;
  readonly every: ReportRhythm;
  readonly clock: string;
  readonly zone: string;
  /** It has told everything up to this time. */
  readonly upTo: string;
  readonly nextAt: string;
  readonly createdAt: string;
  readonly orderedBy: string | null;
  readonly endedAt: string | null;
}

const USUAL_CLOCK = '07:00';
const MOST_REPORTS = 1000;
/** The first one tells of so many days before. */
const FIRST_DAYS = 7;
const DAY_MS = 24 * 3_600_000;

/** Reports that are sent by themselves; a person who is no lead sees those that go to clients, and her own. */
export async function listReports(desk: Desk, who: SignedIn): Promise<{ items: ReportOrder[] }> {
  const rows = await desk.store.select<ReportValues>(
    'SELECT * FROM reports WHERE endedAt IS NULL ORDER BY createdAt, id',
  );
  return { items: await view(rows.filter((row) => isOpenTo(row, who))) };
}

function isOpenTo({ personId }: ReportValues, { person }: SignedIn): boolean {
  return person.role === 'lead' || personId === null || personId === person.id;
}

async function view(rows: readonly ReportValues[]): Promise<ReportOrder[]> {
  const [clients, names] = await Promise.all([
    ClientRow.findAll({ where: { id: rows.flatMap(({ clientId }) => clientId ?? []) } }),
    personNames(rows.map(({ personId }) => personId)),
  ]);
  const handleOf = new Map(clients.map(({ id, handle }) => [id, handle]));
  return rows.map(({ id, clientId, personId, email, every, clock, zone, upTo, nextAt, createdAt }) => ({
    ...{ id, email, every, zone, upTo, nextAt, createdAt, at: clock },
    client: clientId === null ? null : (handleOf.get(clientId) ?? null),
    person: personId === null ? null : (names.get(personId) ?? null),
  }));
}

/** Has a report sent from now on. Throws Problem. */
export async function addReport(desk: Desk, who: SignedIn, input: NewReport): Promise<ReportOrder> {
  const { every, at = USUAL_CLOCK } = input;
  const client = input.client === undefined ? null : await findClient(input.client, EXACT);
  const to = await receiverOf(desk, who, input, client);
  const zone = input.zone ?? to.zone;
  if (!isTimeZone(zone)) throw new Problem('no-such-zone', { zone });
  const [{ count } = { count: 0 }] = await desk.store.select<{ count: number }>(
    'SELECT COUNT(*) AS count FROM reports WHERE endedAt IS NULL',
  );
  if (count >= MOST_REPORTS) throw new Problem('too-many-reports', { most: MOST_REPORTS });
  const now = desk.clock.now();
  const row: ReportValues = {
    ...{ id: newId(), clientId: client?.id ?? null, personId: to.personId, email: to.email, every },
    ...{ clock: at, zone, createdAt: now.toISOString(), orderedBy: who.person.id, endedAt: null },
    upTo: new Date(now.getTime() - FIRST_DAYS * DAY_MS).toISOString(),
    nextAt: nextReportAt(now, { every, clock: at, zone }).toISOString(),
  };
  await desk.store.write(async (transaction) => {
    await desk.store.insert('reports', [{ ...row }], transaction);
    await note(desk, { personId: who.person.id }, transaction, {
      kind: 'report.ordered',
      says: `A report of ${client?.name ?? 'all clients'} goes to ${to.says} every ${every}.`,
      ...(client ? { clientId: client.id } : {}),
    });
  });
  const [order] = await view([row]);
  if (!order) throw new Error('what was just written is there');
  return order;
}

interface To {
  readonly personId: string | null;
  readonly email: string | null;
  readonly zone: string;
  readonly says: string;
}

async function receiverOf(
  desk: Desk,
  who: SignedIn,
  { person, email, contact }: NewReport,
  client: ClientRow | null,
): Promise<To> {
  const own = await tellingOf(desk, who.person.id);
  const zone = own?.zone ?? 'UTC';
  if (person !== undefined) {
    const row = await findPerson(who, person);
    if (row.id !== who.person.id && who.person.role !== 'lead')
      throw new Problem('not-allowed', { role: 'lead', person: who.person.name, own: who.person.role });
    const telling = await tellingOf(desk, row.id);
    if (telling?.email == null) throw new Problem('no-mail-address', { person: row.name });
    return { personId: row.id, email: null, zone: telling.zone, says: row.name };
  }
  if (contact === true) {
    const noted = contactNoted(client?.contact ?? null);
    if (!noted) throw new Problem('no-contact-address', { client: client?.name ?? '' });
    return { personId: null, email: noted.email, zone, says: noted.email };
  }
  return { personId: null, email: email ?? null, zone, says: email ?? '' };
}

async function tellingOf({ store }: Desk, personId: string): Promise<RecipientValues | null> {
  const [row] = await store.select<RecipientValues>('SELECT * FROM tellings WHERE personId = $personId', {
    personId,
  });
  return row ?? null;
}

async function orderOf({ store }: Desk, id: string): Promise<ReportValues | null> {
  const [row] = await store.select<ReportValues>('SELECT * FROM reports WHERE id = $id AND endedAt IS NULL', {
    id,
  });
  return row ?? null;
}

/** What it would say if it were sent now. Throws Problem. */
export async function showReport(
  desk: Desk,
  kept: Projections,
  who: SignedIn,
  id: string,
): Promise<ReportShown> {
  const row = await orderOf(desk, id);
  if (!row || !isOpenTo(row, who)) throw new Problem('no-such-report', { ref: id });
  await kept.all();
  const language = await languageOf(desk, row);
  const facts = await reportFacts(desk, row.clientId, { from: row.upTo, to: nowText(desk) }, language);
  const mail = reportMail(facts, { zone: row.zone, base: null, stop: null }, row.clientId !== null);
  return { id, ...mail };
}

/** Somebody of the client's reads it in their own language, the agency's people in English. */
export async function languageOf(
  desk: Desk,
  { clientId, email }: Pick<ReportValues, 'clientId' | 'email'>,
): Promise<SheetLanguage> {
  return clientId === null || email === null ? 'en' : languageFor(desk, clientId, email);
}

/** Sends it no more. Throws Problem. */
export async function endReport(desk: Desk, who: SignedIn, id: string): Promise<void> {
  const row = await orderOf(desk, id);
  if (!row || !isOpenTo(row, who)) throw new Problem('no-such-report', { ref: id });
  await desk.store.write(async (transaction) => {
    await end(desk, row, transaction);
    await note(desk, { personId: who.person.id }, transaction, {
      kind: 'report.ended',
      says: `The report of ${await ofWhom(row)} goes to ${await toWhom(row)} no more.`,
      ...(row.clientId === null ? {} : { clientId: row.clientId }),
    });
  });
}

async function end(desk: Desk, { id }: ReportValues, transaction: Transaction): Promise<void> {
  await desk.store.run(
    'UPDATE reports SET endedAt = $now WHERE id = $id',
    { id, now: nowText(desk) },
    transaction,
  );
}

async function ofWhom({ clientId }: ReportValues): Promise<string> {
  return clientId === null ? 'all clients' : ((await ClientRow.findByPk(clientId))?.name ?? 'a client');
}

async function toWhom({ personId, email }: ReportValues): Promise<string> {
  return email ?? (personId === null ? 'nobody' : ((await PersonRow.findByPk(personId))?.name ?? 'nobody'));
}

/** A text that only whoever was sent a report has: nobody can make one without the service's own secret. */
export function stopToken(desk: Desk, id: string): string {
  const mac = createHmac('sha256', desk.book.secretFor('stop reports')).update(id).digest('base64url');
  return `${id}.${mac}`;
}

/** What a token stops, in words; null where it stops nothing (any more), whatever is wrong with it. */
export async function stoppedBy(desk: Desk, token: string): Promise<{ says: string; id: string } | null> {
  const [id = '', ...rest] = token.split('.');
  const given = Buffer.from(`${id}.${rest.join('.')}`);
  const right = Buffer.from(stopToken(desk, id));
  if (given.length !== right.length || !timingSafeEqual(given, right)) return null;
  const row = await orderOf(desk, id);
  return row ? { id, says: `the report of ${await ofWhom(row)}` } : null;
}

/** Ends a report for the one who is sent it (RFC 8058 §3.2). Does nothing where it is over already, or the token is none. */
export async function stopReport(desk: Desk, token: string): Promise<void> {
  const stopped = await stoppedBy(desk, token);
  const row = stopped && (await orderOf(desk, stopped.id));
  if (!row) return;
  await desk.store.write(async (transaction) => {
    await end(desk, row, transaction);
    await note(desk, { personId: null }, transaction, {
      kind: 'report.stopped',
      says: `${await toWhom(row)} wants no more of the report of ${await ofWhom(row)}.`,
      ...(row.clientId === null ? {} : { clientId: row.clientId }),
    });
  });
}

/** Reports whose time has come, with where they go; none to somebody who is not here any more. */
export async function dueReports(desk: Desk, most: number): Promise<(ReportValues & { sentTo: string })[]> {
  return desk.store.select(
    `SELECT r.*, ifnull(r.email, t.email) AS sentTo FROM reports r
       LEFT JOIN persons p ON p.id = r.personId LEFT JOIN tellings t ON t.personId = r.personId
       LEFT JOIN clients k ON k.id = r.clientId
      WHERE r.endedAt IS NULL AND r.nextAt <= $now AND ifnull(r.email, t.email) IS NOT NULL AND p.endedAt IS NULL
        AND k.archivedAt IS NULL ORDER BY r.nextAt, r.id LIMIT $most`,
    { now: nowText(desk), most },
  );
}

/** The message of a report, up to a time. @param base where the console is, without a slash at its end */
export async function messageFor(
  desk: Desk,
  row: ReportValues,
  to: string,
  base: string,
  language: SheetLanguage,
): Promise<Message & { readonly headers: Readonly<Record<string, string>> }> {
  const facts = await reportFacts(desk, row.clientId, { from: row.upTo, to }, language);
  const stop = `${base}/stop/${stopToken(desk, row.id)}`;
  const message = reportMail(
    facts,
    { zone: row.zone, base: row.personId === null ? null : base, stop },
    row.clientId !== null,
  );
  // RFC 2369 §3.2 and RFC 8058 §3.1: programs may say it for their people, by one request.
  const headers = stopHeaders(stop);
  return { ...message, headers };
}

/** Writes down that a report was told up to a time, and when it is next due. False where somebody else did meanwhile. */
export async function moveOn(
  desk: Desk,
  { id, nextAt, every, clock, zone }: ReportValues,
  to: string,
  transaction: Transaction,
): Promise<boolean> {
  const next = nextReportAt(new Date(to), { every, clock, zone }).toISOString();
  const changed = await desk.store.change(
    'UPDATE reports SET upTo = $to, nextAt = $next WHERE id = $id AND nextAt = $nextAt AND endedAt IS NULL',
    { id, to, next, nextAt },
    transaction,
  );
  return changed === 1;
}

/** By which a mail program stops a report: by one request only where its link is under TLS (RFC 2369 §3.2, RFC 8058 §3). */
export function stopHeaders(link: string): Record<string, string> {
  const isSecure = link.startsWith('https:');
  return {
    'List-Unsubscribe': `<${link}>`,
    ...(isSecure ? { 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' } : {}),
  };
}
