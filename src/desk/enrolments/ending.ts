import Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SubmissionRow } from '../../store/models/sitemaps.js';
import { engineValue } from '../engines/answers.js';
import { factsOf } from '../standing/facts.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { atOneSite } from '../context/one-at-a-time.js';
import { engineOf, nowText, type Desk } from '../context/desk.js';
import { findEnrolments, EXACT } from '../context/references.js';

interface EndInput {
  readonly enrolmentId: string;
}

/** One piece that ends an enrolment. A reference that fits several is refused: nothing is ended by accident. */
export async function endPieces(ref: string): Promise<NewPiece<EndInput>[]> {
  const rows = await findEnrolments(ref, EXACT);
  if (rows.length > 1)
    throw new Problem('ambiguous', {
      ref,
      what: `${String(rows.length)} enrolments`,
      one: 'one, such as ferries@veldrane:address',
    });
  return rows.map(({ id, engine }) => ({ subject: ref, input: { enrolmentId: id }, engine }));
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
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  engineValue(await (await engineOf(desk, row)).drop(row.ref));
  await desk.store.write(async (transaction) => {
    const endedAt = nowText(desk);
    await row.reload({ transaction });
    if (row.endedAt != null) return;
    await row.update({ endedAt }, { transaction });
    await SubmissionRow.update(
      { withdrawnAt: endedAt },
      { where: { enrolmentId: row.id, withdrawnAt: null }, transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: 'enrolment.ended',
      says: `${facts.name} was ended at ${facts.profile.title}.`,
      property,
      enrolmentId: row.id,
    });
  });
  return { says: `Ended ${facts.name} at ${facts.profile.title}; its records stay.`, stops: false };
}

export const endWork = anyWork<EndInput>({
  kind: 'end',
  input: Joi.object<EndInput, true>({ enrolmentId: Joi.string().required() }),
  run: runEnd,
});
