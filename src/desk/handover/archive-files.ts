import { stringify } from 'csv-stringify/sync';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Desk } from '../context/desk.js';
import { gatherSheet } from '../sheet/sheet.js';
import { subjectAt } from '../sheet/subject.js';
import { asHtml } from '../../core/sheet/page.js';
import { asMarkdown } from '../../core/sheet/sheet-formats.js';
import { viewHandover } from './show.js';

/** Lines of a table that go into an archive. */
const MOST_LINES = 200_000;
/** What a stranger wrote is no formula in the one who opens it. */
const OPTIONS = { header: true, escape_formulas: true, record_delimiter: 'windows' } as const;

/** The tables of a client’s part, each by a query of its own; nothing in them is of anybody else, nor a secret of ours. */
const TABLES: readonly (readonly [name: string, sql: string])[] = [
  [
    'properties',
    `SELECT handle, address, host, frontDoor, createdAt, archivedAt, nameEnds FROM properties WHERE clientId = $id ORDER BY handle`,
  ],
  [
    'enrolments',
    `SELECT p.handle AS property, e.engine, e.reach, e.target, e.createdAt, e.endedAt FROM enrolments e JOIN properties p ON p.id = e.propertyId
      WHERE p.clientId = $id ORDER BY p.handle, e.engine, e.reach`,
  ],
  [
    'tokens',
    `SELECT p.handle AS property, e.engine, e.reach, t.method, t.value, t.issuedAt, t.replacedAt FROM tokens t JOIN enrolments e ON e.id = t.enrolmentId
      JOIN properties p ON p.id = e.propertyId WHERE p.clientId = $id ORDER BY p.handle, e.engine, t.method, t.issuedAt`,
  ],
  [
    'checks',
    `SELECT p.handle AS property, e.engine, c.method, c.place, c.firstAt, c.checkedAt, c.times, c.seen, c.forecast FROM checks c
      JOIN enrolments e ON e.id = c.enrolmentId JOIN properties p ON p.id = e.propertyId WHERE p.clientId = $id ORDER BY p.handle, e.engine, c.checkedAt`,
  ],
  [
    'ownership',
    `SELECT p.handle AS property, e.engine, e.reach, o.at, o.kind, o.reason FROM ownerships o JOIN enrolments e ON e.id = o.enrolmentId
      JOIN properties p ON p.id = e.propertyId WHERE p.clientId = $id ORDER BY p.handle, e.engine, o.at`,
  ],
  [
    'sitemaps',
    `SELECT p.handle AS property, s.url, r.firstAt, r.at, r.addresses, r.newestLastmod FROM sitemaps s JOIN properties p ON p.id = s.propertyId
      LEFT JOIN readings r ON r.sitemapId = s.id WHERE p.clientId = $id ORDER BY p.handle, s.url, r.at`,
  ],
  [
    'submissions',
    `SELECT p.handle AS property, s.url, e.engine, u.sentAs, u.submittedAt, u.withdrawnAt, g.at, g.readAt, g.found, g.listed, g.trouble
      FROM submissions u JOIN sitemaps s ON s.id = u.sitemapId JOIN properties p ON p.id = s.propertyId JOIN enrolments e ON e.id = u.enrolmentId
      LEFT JOIN engine_readings g ON g.submissionId = u.id WHERE p.clientId = $id ORDER BY p.handle, s.url, e.engine, g.at`,
  ],
  [
    'journal',
    `SELECT j.at, j.kind, p.handle AS property, j.says FROM journal j LEFT JOIN properties p ON p.id = j.propertyId WHERE j.clientId = $id ORDER BY j.seq`,
  ],
];

/**
 * A client’s own part of the records: each table as CSV (RFC 4180) and JSON, the placement sheet, and the reports that were kept.
 * @returns the files by their names. Throws Problem.
 */
export async function archiveFiles(
  desk: Desk,
  ref: string,
): Promise<{ handle: string; at: string; files: ReadonlyMap<string, string> }> {
  const client = await findClient(ref, { archivedToo: true });
  const files = new Map<string, string>();
  const all: Record<string, object[]> = {};
  for (const [name, sql] of TABLES) {
    const rows = await desk.store.select<Record<string, unknown>>(`${sql} LIMIT ${String(MOST_LINES)}`, {
      id: client.id,
    });
    all[name] = rows;
    files.set(`${name}.csv`, stringify(rows, OPTIONS));
  }
  const at = nowText(desk);
  files.set(
    'records.json',
    JSON.stringify({ client: { handle: client.handle, name: client.name }, at, ...all }, null, 1),
  );
  files.set('handover.json', JSON.stringify(await viewHandover(desk, client), null, 1));
  await addSheet(desk, client, files);
  const reports = await desk.store.select<{ at: string; html: string; markdown: string }>(
    'SELECT at, html, markdown FROM client_reports WHERE clientId = $id ORDER BY at DESC LIMIT 500',
    { id: client.id },
  );
  for (const { at: when, html, markdown } of reports) {
    const name = `reports/${when.slice(0, 19).replaceAll(':', '')}`;
    files.set(`${name}.html`, html);
    files.set(`${name}.md`, markdown);
  }
  files.set('README.txt', readme(client, at, [...files.keys()]));
  return { handle: client.handle, at, files };
}

async function addSheet(desk: Desk, client: ClientRow, files: Map<string, string>): Promise<void> {
  const subject = await subjectAt(client.id, null);
  if (!subject || (await PropertyRow.count({ where: { clientId: client.id } })) === 0) return;
  const { sheet, blocks } = await gatherSheet(desk, subject, 'en');
  if (sheet.places.length === 0) return;
  files.set('sheet.html', asHtml(blocks, 'en'));
  files.set('sheet.md', asMarkdown(blocks));
}

function readme({ name }: ClientRow, at: string, files: readonly string[]): string {
  return `What is on record of ${name}, as of ${at}.

Tables are CSV (RFC 4180, UTF-8) and, all of them together, records.json. Times are RFC 3339, in UTC.
handover.json says which tokens have to stay, so that no engine withdraws what it honours, and who holds what.
Pages open in any browser; nothing in them is fetched.

${files.join('\n')}
`;
}
