import { Op, type Transaction } from 'sequelize';
import type { SitemapAtEngine } from '../../engines/engine.js';
import { recordEnginesReading } from '../history/readings.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { EngineReadingRow, ReadingRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { noteMissing, waitSays } from '../engines/answers.js';
import { factsOf } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { engineOf, nowText, type Actor, type Desk } from '../context/desk.js';
import { sitemapFacts } from '../facts/sitemap-facts.js';

/** Asks each engine that has the sitemap what it made of it. An engine that does not answer stops no other. */
export async function readEngines(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  sitemapId: string,
): Promise<string[]> {
  const sitemap = (await sitemapFacts(desk, [property.id]))
    .get(property.id)
    ?.find(({ row }) => row.id === sitemapId);
  const troubles: string[] = [];
  for (const { row: submission, engine: before } of sitemap?.submissions ?? []) {
    const enrolment = await EnrolmentRow.findByPk(submission.enrolmentId, { rejectOnEmpty: true });
    const outcome = await (await engineOf(desk, enrolment)).sitemaps(enrolment.ref);
    if (outcome.kind !== 'done') {
      if (outcome.kind === 'refused' && outcome.code === 'no-such-enrolment')
        await noteMissing(desk, actor, await factsOf(desk, enrolment));
      troubles.push(outcome.kind === 'wait' ? waitSays(outcome) : outcome.says);
      continue;
    }
    await desk.store.write((transaction) =>
      SubmissionRow.update({ askedAt: nowText(desk) }, { where: { id: submission.id }, transaction }),
    );
    const now = outcome.value.find(({ ref }) => ref === submission.ref);
    const isByHand = desk.book.profiles.get(enrolment.engine)?.worked.how === 'hand';
    if (!now && !isByHand) troubles.push(await noteLost(desk, actor, property, submission, enrolment));
    if (now && isNews(before, now))
      await recordEngineReading(desk, actor, property, submission.id, enrolment.engine, now);
  }
  return troubles;
}

/** An engine that does not know a sitemap any more has to be told of it again. */
async function noteLost(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  submission: SubmissionRow,
  enrolment: EnrolmentRow,
): Promise<string> {
  const says = `${desk.book.titleOf(enrolment.engine)} does not know ${submission.sentAs} any more: submit it again.`;
  await desk.store.write(async (transaction) => {
    await submission.update({ withdrawnAt: nowText(desk) }, { transaction });
    await note(desk, actor, transaction, {
      kind: 'sitemap.lost',
      says,
      property,
      enrolmentId: enrolment.id,
    });
  });
  return says;
}

function isNews(before: EngineReadingRow | null, now: SitemapAtEngine): boolean {
  return (
    (before?.readAt ?? null) !== now.readAt ||
    (before?.found ?? null) !== now.found ||
    (before?.listed ?? null) !== now.listed ||
    (before?.trouble ?? null) !== now.trouble
  );
}

/** @param recordedBy who carried it here from the engine's own pages */
export async function recordEngineReading(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  submissionId: string,
  engine: string,
  now: SitemapAtEngine,
  recordedBy: string | null = null,
): Promise<void> {
  const title = desk.book.titleOf(engine);
  const { readAt, found, listed, trouble } = now;
  const says =
    readAt === null
      ? `${title} could not read ${now.address}: “${trouble ?? ''}”.`
      : `${title} read ${now.address}: ${String(found)} found, ${String(listed)} listed.`;
  await desk.store.write(async (transaction) => {
    const submission = await SubmissionRow.findByPk(submissionId, { rejectOnEmpty: true, transaction });
    const ours = readAt === null ? null : await countAt(submission.sitemapId, readAt, transaction);
    const isNew = await recordEnginesReading(
      { submissionId, at: nowText(desk), readAt, found, listed, trouble, ours, recordedBy },
      transaction,
    );
    await followGaps(submission.sitemapId, transaction);
    if (isNew) await note(desk, actor, transaction, { kind: 'sitemap.engine-read', says, property });
  });
}

/** Our count when an engine read; null where we had not read by then. */
async function countAt(sitemapId: string, at: string, transaction: Transaction): Promise<number | null> {
  const row = await ReadingRow.findOne({
    where: { sitemapId, firstAt: { [Op.lte]: at }, kind: { [Op.ne]: null } },
    order: [['at', 'DESC']],
    transaction,
  });
  return row?.addresses ?? null;
}

/** Writes down since when the counts of a sitemap have been apart, for each engine that knows it. */
export async function followGaps(sitemapId: string, transaction: Transaction): Promise<void> {
  const [submissions, readings] = await Promise.all([
    SubmissionRow.findAll({ where: { sitemapId, withdrawnAt: null }, transaction }),
    ReadingRow.findAll({
      where: { sitemapId, kind: { [Op.ne]: null } },
      attributes: ['at', 'firstAt', 'addresses'],
      order: [['at', 'DESC']],
      transaction,
    }),
  ]);
  const [newest] = readings;
  if (!newest) return;
  const changed = readings.findIndex(({ addresses }) => addresses !== newest.addresses);
  const ours = readings[(changed === -1 ? readings.length : changed) - 1] ?? newest;
  for (const row of submissions) {
    const engine = await EngineReadingRow.findOne({
      where: { submissionId: row.id },
      order: [['at', 'DESC']],
      transaction,
    });
    const isApart = engine?.found != null && engine.found !== newest.addresses;
    // Since the later of the two became what it is.
    const oursSince = ours.firstAt ?? ours.at;
    const since = [oursSince, engine?.readAt ?? oursSince].sort().at(-1) ?? oursSince;
    const apartSince = isApart ? (row.apartSince ?? since) : null;
    if (apartSince !== (row.apartSince ?? null)) await row.update({ apartSince }, { transaction });
  }
}
