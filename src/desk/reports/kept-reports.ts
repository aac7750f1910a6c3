import type { NewKeptReport, Page, ReportKept, ReportWritten, WholeReport } from '../../api/documents.js';
import type { Transaction } from 'sequelize';
import { Problem } from '../../api/problems.js';
import type { SheetLanguage } from '../../core/sheet/sentences.js';
import { DAY } from '../../core/time/duration.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import { newId } from '../../store/ids.js';
import { ClientRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import { cursorIn, cursorText } from '../context/cursor.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note, personNames } from '../context/journal.js';
import { EXACT } from '../context/references.js';
import { contactsOf } from '../letters/contacts.js';
import type { Projections } from '../projections/projections.js';
import { writeMessage } from '../outbox/messages.js';
import { reportOf } from './client-report.js';

interface ProjectionValues {
  readonly id: string;
  readonly clientId: string;
  readonly spanFrom: string;
  readonly spanTo: string;
  readonly at: string;
  readonly personId: string | null;
  readonly sentTo: string | null;
  readonly messageId: string | null;
  readonly title: string;
  readonly html: string;
  readonly markdown: string;
  /** JSON. */
  readonly report: string;
}

const LINE = 'id, clientId, spanFrom, spanTo, at, personId, sentTo, title';
type KeptLine = Pick<
  ProjectionValues,
  'id' | 'clientId' | 'spanFrom' | 'spanTo' | 'at' | 'personId' | 'sentTo' | 'title'
>;

/** The same report to the same people within this time is sent once more only at a word. */
const SENT_ONCE_WITHIN = DAY;

/** Keeps a report as it is now, and sends it where somebody is named, as they read. Throws Problem. */
export async function keepReport(
  desk: Desk,
  kept: Projections,
  actor: Actor,
  ref: string,
  { email, contact, anyway = false, language, ...span }: NewKeptReport,
): Promise<ReportKept> {
  const client = await findClient(ref, EXACT);
  const sentTo = contact === undefined ? (email ?? null) : await mailOf(desk, client, contact);
  if (sentTo !== null && !desk.sendsMail) throw new Problem('no-mail-server');
  const written = await reportOf(desk, kept, client, {
    ...span,
    language: language ?? (await languageFor(desk, client.id, sentTo)),
  });
  if (sentTo !== null && !anyway) await refuseTwice(desk, client.id, sentTo, written);
  const row = await desk.store.write(async (transaction) => {
    const messageId = sentTo === null ? null : await send(desk, written, sentTo, transaction);
    const values = valuesOf(desk, client, written, { actor, sentTo, messageId });
    await desk.store.insert('client_reports', [{ ...values }], transaction);
    await note(desk, actor, transaction, {
      kind: 'report.kept',
      says: `The report ${written.title} was kept${sentTo === null ? '' : ` and goes to ${sentTo}`}.`,
      clientId: client.id,
    });
    return values;
  });
  const [line] = await view([row]);
  if (!line) throw new Error('what was just written is there');
  return line;
}

/** The language in which somebody of a client's reads; English where nobody is known by that address. */
export async function languageFor(
  { store }: Desk,
  clientId: string,
  email: string | null,
): Promise<SheetLanguage> {
  const [row] = await store.select<{ language: SheetLanguage }>(
    `SELECT language FROM contacts WHERE clientId = $clientId AND endedAt IS NULL AND lower(email) = lower($email)
      ORDER BY createdAt DESC LIMIT 1`,
    { clientId, email: email ?? '' },
  );
  return row?.language ?? 'en';
}

async function refuseTwice(
  { store, clock }: Desk,
  clientId: string,
  sentTo: string,
  { title }: ReportWritten,
): Promise<void> {
  const since = new Date(clock.now().getTime() - SENT_ONCE_WITHIN).toISOString();
  const [sent] = await store.select<{ at: string }>(
    `SELECT at FROM client_reports WHERE clientId = $clientId AND sentTo = $sentTo AND title = $title AND at > $since
      ORDER BY at DESC LIMIT 1`,
    { clientId, sentTo, title, since },
  );
  if (sent) throw new Problem('report-sent', { title, to: sentTo, at: writtenMinute(sent.at) });
}

async function mailOf(desk: Desk, client: ClientRow, ref: string): Promise<string> {
  const wanted = ref.toLowerCase();
  const found = (await contactsOf(desk, client.id)).find(
    ({ id, name }) => id === ref || name.toLowerCase() === wanted,
  );
  if (!found) throw new Problem('no-such-contact', { ref });
  if (found.email === null) throw new Problem('no-contact-mail', { name: found.name });
  return found.email;
}

/** A report as it is kept. */
function valuesOf(
  desk: Desk,
  { id: clientId }: ClientRow,
  { title, html, markdown, report }: ReportWritten,
  { actor, sentTo, messageId }: { actor: Actor; sentTo: string | null; messageId: string | null },
): ProjectionValues {
  return {
    ...{ id: newId(), clientId, spanFrom: report.from, spanTo: report.to, at: nowText(desk) },
    ...{ personId: actor.personId, sentTo, messageId, title, html, markdown },
    report: JSON.stringify(report),
  };
}

function send(
  desk: Desk,
  { title, html, mail: { subject, ...body } }: ReportWritten,
  sentTo: string,
  transaction: Transaction,
): Promise<string> {
  const whole = { ...body, attachments: [reportFile(title, html)] };
  return writeMessage(desk, { way: 'mail', sentTo, subject, body: whole }, transaction);
}

/** A report as a file that goes with a mail: what a program for mail leaves out of a page stands there whole. */
function reportFile(title: string, html: string): { filename: string; content: string; contentType: string } {
  const filename = `${title.toLowerCase().replace(/[^a-z0-9]+/gu, '-')}.html`;
  return { filename, content: html, contentType: 'text/html; charset=utf-8' };
}

/** The page of a client’s report that goes with one that is sent by itself, and how it is kept once it is. */
export async function pageFor(
  desk: Desk,
  kept: Projections,
  clientId: string,
  span: { readonly from: string; readonly to: string; readonly language: SheetLanguage },
): Promise<{
  readonly file: ReturnType<typeof reportFile>;
  readonly keep: (sent: { sentTo: string; messageId: string }, transaction: Transaction) => Promise<void>;
}> {
  const client = await ClientRow.findByPk(clientId, { rejectOnEmpty: true });
  const written = await reportOf(desk, kept, client, span);
  return {
    file: reportFile(written.title, written.html),
    keep: ({ sentTo, messageId }, transaction) => {
      const values = valuesOf(desk, client, written, { actor: { personId: null }, sentTo, messageId });
      return desk.store.insert('client_reports', [{ ...values }], transaction);
    },
  };
}

/** Reports that were kept of a client, newest first. Throws Problem. */
export async function listKeptReports(
  { store }: Desk,
  ref: string,
  { after, limit = 100 }: { readonly after?: string; readonly limit?: number },
): Promise<Page<ReportKept>> {
  const { id: clientId } = await findClient(ref);
  const place = after === undefined ? null : cursorIn(after);
  const rows = await store.select<KeptLine>(
    `SELECT ${LINE} FROM client_reports WHERE clientId = $clientId
       ${place ? 'AND (at < $at OR (at = $at AND id > $id))' : ''} ORDER BY at DESC, id LIMIT $most`,
    { clientId, ...place, most: limit + 1 },
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return { items: await view(shown), next: last && rows.length > limit ? cursorText(last) : null };
}

/** One report, as it was. Throws Problem. */
export async function showKeptReport({ store }: Desk, id: string): Promise<WholeReport> {
  const [row] = await store.select<ProjectionValues>('SELECT * FROM client_reports WHERE id = $id', { id });
  const [line] = row ? await view([row]) : [];
  if (!row || !line) throw new Problem('no-such-kept-report', { ref: id });
  return { ...line, html: row.html, markdown: row.markdown };
}

async function view(rows: readonly KeptLine[]): Promise<ReportKept[]> {
  const [clients, names] = await Promise.all([
    ClientRow.findAll({ where: { id: rows.map(({ clientId }) => clientId) }, attributes: ['id', 'handle'] }),
    personNames(rows.map(({ personId }) => personId)),
  ]);
  const handles = new Map(clients.map(({ id, handle }) => [id, handle]));
  return rows.map(({ id, clientId, spanFrom, spanTo, at, personId, sentTo, title }) => ({
    ...{ id, at, sentTo, title },
    client: handles.get(clientId) ?? clientId,
    from: spanFrom,
    to: spanTo,
    by: personId === null ? null : (names.get(personId) ?? null),
  }));
}
