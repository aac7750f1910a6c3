import Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SubmissionRow } from '../../store/models/sitemaps.js';
import { enrolmentValue } from '../engines/answers.js';
import { factsOf } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { engineOf, nowText, type Desk } from '../context/desk.js';

interface WithdrawInput {
  readonly submissionId: string;
}

/** One piece for each submission that is to be withdrawn. */
export async function withdrawPieces(ids: readonly string[]): Promise<NewPiece<WithdrawInput>[]> {
  const rows = await Promise.all([...new Set(ids)].map(findSubmission));
  return rows.map((row) => ({ subject: row.sentAs, input: { submissionId: row.id } }));
}

/** One piece of a withdrawing job. */
async function runWithdraw(desk: Desk, piece: Piece<WithdrawInput>): Promise<JobResult> {
  const { submissionId } = piece.input;
  const submission = await SubmissionRow.findByPk(submissionId, { rejectOnEmpty: true });
  const row = await EnrolmentRow.findByPk(submission.enrolmentId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const { title, worked } = facts.profile;
  const sitemap = submission.sitemapId;
  if (submission.withdrawnAt != null)
    return { says: `${submission.sentAs} was withdrawn already.`, stops: false, sitemap };
  const outcome = await (await engineOf(desk, row)).withdrawSitemap(row.ref, submission.ref);
  await enrolmentValue(desk, piece.actor, facts, outcome);
  await desk.store.write(async (transaction) => {
    await submission.reload({ transaction });
    if (submission.withdrawnAt != null) return;
    await submission.update({ withdrawnAt: nowText(desk) }, { transaction });
    await note(desk, piece.actor, transaction, {
      kind: 'sitemap.withdrawn',
      says: `${submission.sentAs} was withdrawn from ${title}.`,
      property,
      enrolmentId: row.id,
    });
  });
  const says =
    worked.how === 'hand'
      ? `Noted as withdrawn: take ${submission.sentAs} off ${title}’s own pages now.`
      : `Withdrawn from ${title}.`;
  return { says, stops: false, enrolment: facts.name, sitemap };
}

/** A submission by identifier. Throws Problem. */
export async function findSubmission(id: string): Promise<SubmissionRow> {
  const row = await SubmissionRow.findByPk(id);
  if (row) return row;
  throw new Problem('no-such-submission', { ref: id });
}

export const withdrawWork = anyWork<WithdrawInput>({
  kind: 'withdraw',
  input: Joi.object<WithdrawInput, true>({ submissionId: Joi.string().required() }),
  run: runWithdraw,
});
