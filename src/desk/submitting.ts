import type { JobResult } from '../api/documents.js';
import { parseTarget } from '../core/address/reach.js';
import type { SitemapKind } from '../core/sitemap/reading.js';
import { submissionForm } from '../core/sitemap/submission.js';
import { Problem } from '../api/problems.js';
import { newId } from '../store/ids.js';
import { PropertyRow } from '../store/models/clients.js';
import { EnrolmentRow } from '../store/models/enrolments.js';
import { ReadingRow, SitemapRow, SubmissionRow } from '../store/models/sitemaps.js';
import { enrolmentValue } from './engine-answers.js';
import { enrolmentFacts, factsOf } from './facts.js';
import { note } from './journal.js';
import type { NewPiece, Piece } from './jobs/runner.js';
import { engineOf, nowText, type Desk } from './parts.js';
import { findEnrolments, findSitemap } from './refs.js';

interface SubmitInput {
  readonly sitemapId: string;
  readonly enrolmentId: string;
}

/** One piece for each enrolment that a sitemap is made known to; all that would take it, where none is named. */
export async function submitPieces(
  desk: Desk,
  input: { sitemap: string; enrolments?: string[] },
): Promise<NewPiece[]> {
  const sitemap = await findSitemap(input.sitemap);
  const named = input.enrolments !== undefined;
  const rows = named
    ? (await Promise.all((input.enrolments ?? []).map(findEnrolments))).flat()
    : await EnrolmentRow.findAll({
        where: { propertyId: sitemap.propertyId, endedAt: null },
        order: ['engine', 'reach'],
      });
  const facts = await enrolmentFacts(desk, rows);
  const kind = await kindOf(sitemap.id);
  const fitting = facts.filter((one) => {
    const form = submissionForm(
      one.profile,
      parseTarget(one.row.reach, one.row.target),
      one.standing.badge,
      sitemap.url,
      kind,
    );
    return named || form.kind === 'send';
  });
  if (fitting.length === 0)
    throw new Problem(
      'cannot-be',
      'No enrolment of this property would take the sitemap now: hold a badge that covers it first.',
    );
  return fitting.map((one) => {
    const piece: SubmitInput = { sitemapId: sitemap.id, enrolmentId: one.row.id };
    return { subject: one.name, input: piece };
  });
}

/** What a sitemap was at our newest reading. */
async function kindOf(sitemapId: string): Promise<SitemapKind | null> {
  const newest = await ReadingRow.findOne({ where: { sitemapId }, order: [['at', 'DESC']] });
  return newest?.kind ?? null;
}

/** One piece of a submitting job. */
export async function runSubmit(desk: Desk, piece: Piece): Promise<JobResult> {
  const { sitemapId, enrolmentId } = piece.input as SubmitInput;
  const sitemap = await SitemapRow.findByPk(sitemapId, { rejectOnEmpty: true });
  const row = await EnrolmentRow.findByPk(enrolmentId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const { title, worked } = facts.profile;
  const there = await SubmissionRow.findOne({ where: { sitemapId, enrolmentId, withdrawnAt: null } });
  if (there)
    return {
      says: `${title} knows ${there.sentAs} already.`,
      stops: false,
      enrolment: facts.name,
      sitemap: sitemapId,
    };
  const form = submissionForm(
    facts.profile,
    parseTarget(row.reach, row.target),
    facts.standing.badge,
    sitemap.url,
    await kindOf(sitemapId),
  );
  if (form.kind === 'refused') throw new Problem('cannot-be', form.says);
  const outcome = await (await engineOf(desk, row)).submitSitemap(row.ref, form.as, piece.itemId);
  const { ref } = await enrolmentValue(desk, piece.actor, facts, outcome);
  await desk.store.write(async (transaction) => {
    await SubmissionRow.create(
      { id: newId(), sitemapId, enrolmentId, sentAs: form.as, ref, submittedAt: nowText(desk) },
      { transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: 'sitemap.submitted',
      says: `${sitemap.url} was submitted to ${title} as ${form.as}.`,
      property,
      enrolmentId,
    });
  });
  return {
    says:
      worked.how === 'hand'
        ? `Noted as submitted: enter ${form.as} on ${title}’s own pages now, and record its counts when it shows them.`
        : `Submitted to ${title} as ${form.as}.`,
    stops: false,
    enrolment: facts.name,
    sitemap: sitemapId,
  };
}

/** Writes down that an engine knows a sitemap, where it learnt of it otherwise than by a submission of its own. */
export async function noteSubmission(
  desk: Desk,
  sitemap: SitemapRow,
  enrolment: EnrolmentRow,
  sentAs: string,
  ref: string,
): Promise<void> {
  const same = { sitemapId: sitemap.id, enrolmentId: enrolment.id };
  await desk.store.write((transaction) =>
    SubmissionRow.findOrCreate({
      where: { ...same, withdrawnAt: null },
      defaults: { id: newId(), ...same, sentAs, ref, submittedAt: nowText(desk) },
      transaction,
    }),
  );
}

/** One piece of a withdrawing job. */
export async function runWithdraw(desk: Desk, piece: Piece): Promise<JobResult> {
  const { submissionId } = piece.input as { submissionId: string };
  const submission = await SubmissionRow.findByPk(submissionId, { rejectOnEmpty: true });
  const row = await EnrolmentRow.findByPk(submission.enrolmentId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const { title } = facts.profile;
  if (submission.withdrawnAt != null)
    return {
      says: `${submission.sentAs} was withdrawn already.`,
      stops: false,
      sitemap: submission.sitemapId,
    };
  const outcome = await (await engineOf(desk, row)).withdrawSitemap(row.ref, submission.ref);
  await enrolmentValue(desk, piece.actor, facts, outcome);
  await desk.store.write(async (transaction) => {
    await submission.update({ withdrawnAt: nowText(desk) }, { transaction });
    await note(desk, piece.actor, transaction, {
      kind: 'sitemap.withdrawn',
      says: `${submission.sentAs} was withdrawn from ${title}.`,
      property,
      enrolmentId: row.id,
    });
  });
  return { says: `Withdrawn from ${title}.`, stops: false, sitemap: submission.sitemapId };
}

/** A submission by identifier. Throws Problem. */
export async function findSubmission(id: string): Promise<SubmissionRow> {
  const row = await SubmissionRow.findByPk(id);
  if (row) return row;
  throw new Problem('no-such-submission', `There is no submission “${id}”.`);
}
