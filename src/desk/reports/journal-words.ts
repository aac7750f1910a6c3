import { inOwnersWords, type Happened } from '../../core/report/owner-words.js';
import type { SheetLanguage } from '../../core/sheet/sentences.js';
import type { Told } from '../../core/report/report.js';
import type { Desk } from '../context/desk.js';

/** Of what happened so much is read; reports tell less of it. */
export const MOST_READ = 500;

/** A stretch of time: after the first instant, up to the second. RFC 3339. */
export interface Span {
  readonly from: string;
  readonly to: string;
}

/** What the journal has of some kinds, of one client (by identifier) or of all, in an owner's words: the newest, oldest first. */
export async function journalWordsOf(
  { store, book }: Desk,
  clientId: string | null,
  kinds: readonly string[],
  { from, to }: Span,
  language: SheetLanguage = 'en',
): Promise<Told[]> {
  const rows = await store.select<Told & Happened>(
    `SELECT j.at, ifnull(p.handle, k.handle) AS property, j.kind, j.says, e.engine, e.reach, e.target FROM journal j
       LEFT JOIN properties p ON p.id = j.propertyId LEFT JOIN enrolments e ON e.id = j.enrolmentId
       JOIN clients k ON k.id = j.clientId
      WHERE ${clientId === null ? 'true' : 'j.clientId = $clientId'} AND j.at > $from AND j.at <= $to
        AND j.kind IN (SELECT value FROM json_each($kinds))
      ORDER BY j.seq DESC LIMIT $most`,
    { clientId, from, to, kinds: JSON.stringify(kinds), most: MOST_READ },
  );
  const told = rows.reverse().map(({ at, property, engine, ...row }) => ({
    ...{ at, property },
    says: withoutName(
      inOwnersWords({ ...row, engine: engine === null ? null : book.titleOf(engine) }, language),
      property,
    ),
  }));
  return told.filter((one, nth) => !isSame(one, told[nth - 1]));
}

/** The journal may have in two entries (a verdict, and what follows from it) what an owner is told once. */
function isSame(one: Told, before: Told | undefined): boolean {
  return (
    one.property === before?.property &&
    one.says === before.says &&
    one.at.slice(0, 10) === before.at.slice(0, 10)
  );
}

/** A sentence that begins with what stands before it says it once. */
function withoutName(says: string, name: string): string {
  if (!says.startsWith(`${name} `)) return says;
  const rest = says.slice(name.length + 1);
  return rest.charAt(0).toUpperCase() + rest.slice(1);
}
