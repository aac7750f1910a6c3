import Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import { parseScope } from '../../core/address/reach.js';
import type { SitemapKind } from '../../core/sitemap/reading.js';
import { submissionForm, type SubmissionForm } from '../../core/sitemap/submission.js';
import { Problem } from '../../api/problems.js';
import type { Engine } from '../../engines/engine.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { ReadingChildRow } from '../../store/models/reading-sets.js';
import { ReadingRow, SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { enrolmentValue } from '../engines/answers.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { engineOf, nowText, type Desk } from '../context/desk.js';
import { findAllEnrolments } from '../context/enrolment-refs.js';
import { MINUTE } from '../../core/time/duration.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { readSitemap } from './reading.js';
import { findSitemap, EXACT } from '../context/references.js';

interface SubmitInput {
  readonly sitemapId: string;
  readonly enrolmentId: string;
  /** Whether it is to be submitted although an index that the engine knows holds it, or although it cannot be read. */
  readonly anyway?: boolean;
}

/** One piece for each enrolment that a sitemap is made known to; all that would take it, where none is named. */
export async function submitPieces(
  desk: Desk,
  input: { sitemap: string; enrolments?: string[]; anyway?: boolean },
): Promise<NewPiece<SubmitInput>[]> {
  const sitemap = await findSitemap(input.sitemap);
  const named = input.enrolments !== undefined;
  const rows = named
    ? await findAllEnrolments(desk, input.enrolments ?? [], EXACT)
    : await EnrolmentRow.findAll({
        where: { propertyId: sitemap.propertyId, endedAt: null },
        order: ['engine', 'reach'],
      });
  const facts = await enrolmentFacts(desk, rows);
  const kind = await kindOf(sitemap.id);
  const fitting = named
    ? facts
    : onePerEngine(facts.filter((one) => formOf(one, sitemap, kind).kind === 'send'));
  if (fitting.length === 0) throw new Problem('nothing-takes-it');
  const anyway = input.anyway === true ? { anyway: true } : {};
  return fitting.map((one) => {
    const piece: SubmitInput = { sitemapId: sitemap.id, enrolmentId: one.row.id, ...anyway };
    return { subject: one.name, input: piece, engine: one.row.engine };
  });
}

/** An engine to which a site is enrolled twice is told once: by the enrolment of its address, where there is one. */
function onePerEngine(facts: readonly EnrolmentFacts[]): EnrolmentFacts[] {
  const chosen = new Map<string, EnrolmentFacts>();
  for (const one of facts) {
    const there = chosen.get(one.row.accountId);
    if (there?.row.reach !== 'address') chosen.set(one.row.accountId, one);
  }
  return [...chosen.values()];
}

function formOf(
  { profile, row, standing }: EnrolmentFacts,
  sitemap: SitemapRow,
  kind: SitemapKind | null,
  known = 0,
): SubmissionForm {
  return submissionForm(profile, parseScope(row.reach, row.target), standing.badge, sitemap.url, kind, known);
}

function newestReading(sitemapId: string): Promise<ReadingRow | null> {
  return ReadingRow.findOne({ where: { sitemapId }, order: [['at', 'DESC']] });
}

/** What a sitemap was at our newest reading. */
async function kindOf(sitemapId: string): Promise<SitemapKind | null> {
  return (await newestReading(sitemapId))?.kind ?? null;
}

/** A reading that is older than this says little of what an engine would read now. */
const FRESH = 10 * MINUTE;
/** Engines are told side by side; the sitemap is read once for all of them. */
const oneReading = new OneAtATime();

/** Reads a sitemap before anybody is told of it. */
function readFirst(desk: Desk, piece: Piece, { id }: SitemapRow): Promise<void> {
  return oneReading.run(id, async () => {
    const newest = await newestReading(id);
    const age = newest ? desk.clock.now().getTime() - Date.parse(newest.at) : Infinity;
    if (age > FRESH) await readSitemap(desk, { ...piece, input: { sitemapId: id } });
  });
}

/** What keeps every reader out of a sitemap, by our newest reading: it is submitted by nobody. Throws Problem. */
async function requireReadable(sitemap: SitemapRow, engine: string): Promise<void> {
  const newest = await newestReading(sitemap.id);
  const broken = newest?.findings.find(({ grade }) => grade === 'stops');
  if (broken) throw new Problem('sitemap-broken', { sitemap: sitemap.url, engine, why: broken.says });
}

/** What an engine knows already by another enrolment it need not know twice. Throws Problem. */
async function requireUnknown(sitemap: SitemapRow, row: EnrolmentRow, engine: string): Promise<void> {
  const beside = await EnrolmentRow.findAll({
    where: { propertyId: row.propertyId, engine: row.engine, accountId: row.accountId, endedAt: null },
  });
  const known = await SubmissionRow.findAll({
    where: { enrolmentId: beside.map(({ id }) => id), withdrawnAt: null },
  });
  const by = known.find(({ sitemapId }) => sitemapId === sitemap.id);
  if (!by) return;
  const name = beside.find(({ id }) => id === by.enrolmentId);
  throw new Problem('known-already', {
    ...{ engine, sitemap: sitemap.url },
    enrolment: name ? `the enrolment of its ${name.reach}` : 'another enrolment',
  });
}

/** One piece of a submitting job. Throws Problem. */
export async function submitOnce(desk: Desk, piece: Piece<SubmitInput>): Promise<JobResult> {
  const { sitemapId, enrolmentId, anyway } = piece.input;
  const sitemap = await SitemapRow.findByPk(sitemapId, { rejectOnEmpty: true });
  const row = await EnrolmentRow.findByPk(enrolmentId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const { title, worked } = facts.profile;
  const result = (says: string): JobResult => ({
    says,
    stops: false,
    enrolment: facts.name,
    sitemap: sitemapId,
  });
  // What a crash cut off may have reached the engine, and may not be wanted any more by now: then it is there all the same.
  if (piece.again && row.endedAt == null) await takeSubmission(await engineOf(desk, row), desk, row, sitemap);
  const there = await SubmissionRow.findOne({ where: { sitemapId, enrolmentId, withdrawnAt: null } });
  if (there) return result(await tellAgain(desk, piece, facts, property, sitemap, there.sentAs));
  const index = await indexOver(sitemap, row);
  if (index && anyway !== true)
    throw new Problem('in-known-index', { engine: title, index: index.url, sitemap: sitemap.url });
  await readFirst(desk, piece, sitemap);
  await requireReadable(sitemap, title);
  if (anyway !== true) await requireUnknown(sitemap, row, title);
  const known = await SubmissionRow.count({ where: { enrolmentId, withdrawnAt: null } });
  const form = formOf(facts, sitemap, await kindOf(sitemapId), known);
  if (form.kind === 'refused') throw new Problem('form-not-taken', { says: form.says });
  const outcome = await (await engineOf(desk, row)).submitSitemap(row.ref, form.as, piece.itemId);
  const { ref } = await enrolmentValue(desk, piece.actor, facts, outcome);
  await desk.store.write(async (transaction) => {
    const [, isNew] = await SubmissionRow.findOrCreate({
      where: { sitemapId, enrolmentId, withdrawnAt: null },
      defaults: { id: newId(), sitemapId, enrolmentId, sentAs: form.as, ref, submittedAt: nowText(desk) },
      transaction,
    });
    // Another piece that submitted it at the same time has written it down already.
    if (!isNew) return;
    await note(desk, piece.actor, transaction, {
      kind: 'sitemap.submitted',
      says: `${sitemap.url} was submitted to ${title} as ${form.as}.`,
      property,
      enrolmentId,
    });
  });
  const spare = await besideIndex(sitemap, row);
  const says =
    worked.how === 'hand'
      ? `Noted as submitted: enter ${form.as} on ${title}’s own pages now, and record its counts when it shows them.`
      : `Submitted to ${title} as ${form.as}.`;
  return result(
    spare.length === 0
      ? says
      : `${says} It holds ${spare.map(({ url }) => url).join(', ')}, submitted there as well: “sitemap withdraw ${property.handle} --spare” takes ${spare.length === 1 ? 'it' : 'them'} off.`,
  );
}

/** A sitemap that an engine knows is told of again where it takes pings: that it has changed. */
async function tellAgain(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  property: PropertyRow,
  sitemap: SitemapRow,
  sentAs: string,
): Promise<string> {
  const { title, sitemaps } = facts.profile;
  const says = `${title} knows ${sentAs} already`;
  if (sitemaps?.ping !== true) return `${says}.`;
  await enrolmentValue(desk, piece.actor, facts, await (await engineOf(desk, facts.row)).ping(sitemap.url));
  await desk.store.write((transaction) =>
    note(desk, piece.actor, transaction, {
      kind: 'sitemap.pinged',
      says: `${title} was told by ping that ${sitemap.url} has changed.`,
      property,
      enrolmentId: facts.row.id,
    }),
  );
  return `${says}, and was told by ping that it has changed.`;
}

/** The sitemaps that an engine knows under the account of an enrolment. */
async function knownTo(enrolment: EnrolmentRow): Promise<SitemapRow[]> {
  const enrolments = await EnrolmentRow.findAll({
    where: { propertyId: enrolment.propertyId, accountId: enrolment.accountId, endedAt: null },
    attributes: ['id'],
  });
  const submissions = await SubmissionRow.findAll({
    where: { enrolmentId: enrolments.map(({ id }) => id), withdrawnAt: null },
  });
  return SitemapRow.findAll({ where: { id: submissions.map(({ sitemapId }) => sitemapId) }, order: ['url'] });
}

/** The index that an engine knows and that holds a sitemap; null where there is none. */
async function indexOver(sitemap: SitemapRow, enrolment: EnrolmentRow): Promise<SitemapRow | null> {
  const known = await knownTo(enrolment);
  const child = await ReadingChildRow.findOne({
    where: { sitemapId: known.map(({ id }) => id), url: sitemap.url },
  });
  return known.find(({ id }) => id === child?.sitemapId) ?? null;
}

/** The sitemaps of an index that an engine knows beside it. */
async function besideIndex(index: SitemapRow, enrolment: EnrolmentRow): Promise<SitemapRow[]> {
  const known = await knownTo(enrolment);
  const children = await ReadingChildRow.findAll({
    where: { sitemapId: index.id, url: known.map(({ url }) => url) },
  });
  const held = new Set(children.map(({ url }) => url));
  return known.filter(({ url }) => held.has(url));
}

/** Asks an engine whether it knows a sitemap, and writes it down where it does and nobody had. */
export async function takeSubmission(
  engine: Engine,
  desk: Desk,
  enrolment: EnrolmentRow,
  sitemap: SitemapRow,
): Promise<void> {
  const outcome = await engine.sitemaps(enrolment.ref);
  const known =
    outcome.kind === 'done' ? outcome.value.find(({ address }) => address === sitemap.url) : undefined;
  if (known) await noteSubmission(desk, sitemap, enrolment, known.address, known.ref);
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

export const submitWork = anyWork<SubmitInput>({
  kind: 'submit',
  input: Joi.object<SubmitInput, true>({
    sitemapId: Joi.string().required(),
    enrolmentId: Joi.string().required(),
    anyway: Joi.boolean(),
  }),
  run: submitOnce,
});
