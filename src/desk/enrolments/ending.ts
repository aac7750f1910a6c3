import Joi from 'joi';
import type { Ending, JobResult } from '../../api/documents.js';
import { parseScope, scopeForPeople } from '../../core/address/reach.js';
import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SubmissionRow } from '../../store/models/sitemaps.js';
import { engineValue } from '../engines/answers.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { atOneSite } from '../context/one-at-a-time.js';
import { engineOf, nowText, type Actor, type Desk } from '../context/desk.js';
import { findEnrolments } from '../context/enrolment-refs.js';
import { EXACT } from '../context/references.js';

interface EndInput {
  readonly enrolmentId: string;
}

/** One piece that ends an enrolment. A reference that fits several is refused: nothing is ended by accident. */
export async function endPieces(desk: Desk, ref: string): Promise<NewPiece<EndInput>[]> {
  const rows = await findEnrolments(desk, ref, EXACT);
  requireOne(ref, rows);
  return rows.map(({ id, engine }) => ({ subject: ref, input: { enrolmentId: id }, engine }));
}

function requireOne(ref: string, { length }: readonly EnrolmentRow[]): void {
  if (length < 2) return;
  throw new Problem('ambiguous', {
    ref,
    what: `${String(length)} enrolments`,
    one: 'one, such as ferries@veldrane:address',
  });
}

/** Ends an enrolment at the engine, then here. Its records stay. */
async function runEnd(desk: Desk, piece: Piece<EndInput>): Promise<JobResult> {
  const row = await EnrolmentRow.findByPk(piece.input.enrolmentId, { rejectOnEmpty: true });
  return atOneSite(row.propertyId, row.engine, () => end(desk, piece, row));
}

async function end(desk: Desk, piece: Piece<EndInput>, row: EnrolmentRow): Promise<JobResult> {
  await row.reload();
  if (row.endedAt != null) return { says: 'It was ended already.', stops: false };
  const facts = await factsOf(desk, row);
  if (facts.profile.worked.how === 'hand') return askEnding(desk, piece.actor, facts);
  engineValue(await (await engineOf(desk, row)).drop(row.ref));
  await writeEnded(desk, piece.actor, facts);
  return { says: `Ended ${facts.name} at ${facts.profile.title}; its records stay.`, stops: false };
}

/** By hand nothing has ended before a person did it there: it stays among the next steps until that is recorded. */
async function askEnding(
  desk: Desk,
  actor: Actor,
  { row, name, profile }: EnrolmentFacts,
): Promise<JobResult> {
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const target = scopeForPeople(parseScope(row.reach, row.target));
  await desk.store.write(async (transaction) => {
    const [isNew] = await EnrolmentRow.update(
      { endAskedAt: nowText(desk) },
      { where: { id: row.id, endAskedAt: null, endedAt: null }, transaction },
    );
    if (isNew === 0) return;
    await note(desk, actor, transaction, {
      kind: 'enrolment.end-asked',
      says: `${name} is to be ended on ${profile.title}’s own pages.`,
      property,
      enrolmentId: row.id,
    });
  });
  return {
    says: `Nothing has ended at ${profile.title} yet: it is a manual engine. Remove ${target} on its own pages, then say “record ended ${name}”; until then it stays among the next steps.`,
    stops: true,
    enrolment: name,
  };
}

/** Records that an enrolment has ended at an engine that is worked by hand. Throws Problem. */
export async function recordEnding(desk: Desk, actor: Actor, ref: string): Promise<Ending> {
  const rows = await findEnrolments(desk, ref, EXACT);
  requireOne(ref, rows);
  const [facts] = await enrolmentFacts(desk, rows);
  if (!facts) throw new Error('an enrolment that was found has facts');
  if (facts.profile.worked.how !== 'hand')
    throw new Problem('not-by-hand', {
      engine: facts.profile.title,
      instead: `“unenrol ${facts.name}” ends it there.`,
    });
  return { enrolment: facts.name, endedAt: await writeEnded(desk, actor, facts) };
}

/** Writes down that an enrolment has ended, and what it had submitted with it. @returns when that was */
async function writeEnded(desk: Desk, actor: Actor, facts: EnrolmentFacts): Promise<string> {
  const { row } = facts;
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  return desk.store.write(async (transaction) => {
    const endedAt = nowText(desk);
    await row.reload({ transaction });
    if (row.endedAt != null) return row.endedAt;
    await row.update({ endedAt }, { transaction });
    await SubmissionRow.update(
      { withdrawnAt: endedAt },
      { where: { enrolmentId: row.id, withdrawnAt: null }, transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'enrolment.ended',
      says: `${facts.name} was ended at ${facts.profile.title}.`,
      property,
      enrolmentId: row.id,
    });
    return endedAt;
  });
}

export const endWork = anyWork<EndInput>({
  kind: 'end',
  input: Joi.object<EndInput, true>({ enrolmentId: Joi.string().required() }),
  run: runEnd,
});
