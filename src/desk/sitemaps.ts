import { Op } from 'sequelize';
import type { JobResult, NewSitemap, Sitemap, Submission } from '../api/documents.js';
import { readSitemapEntry } from '../core/sitemap/entry.js';
import { stateOf } from '../core/sitemap/reading.js';
import { judgeSurroundings, type Surroundings } from '../core/sitemap/surroundings.js';
import { Problem } from '../api/problems.js';
import type { SitemapAtEngine } from '../engines/engine.js';
import { newId } from '../store/ids.js';
import { PropertyRow } from '../store/models/clients.js';
import { EnrolmentRow } from '../store/models/enrolments.js';
import { EngineReadingRow, ReadingRow, SitemapRow } from '../store/models/sitemaps.js';
import { noteMissing, waitSays } from './engine-answers.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from './facts.js';
import { countsOf, sitemapFacts, type SitemapFacts } from './sitemap-facts.js';
import { note, personNames } from './journal.js';
import type { NewPiece, Piece } from './jobs/runner.js';
import { engineOf, nowText, type Actor, type Desk } from './parts.js';
import { doorOf } from './properties.js';
import { findProperty, findSitemap } from './refs.js';
import { readWhole } from './read-sitemap.js';
import { agentsOf, robotsAt } from './robots.js';

function viewSubmission(
  desk: Desk,
  sitemap: SitemapFacts,
  one: SitemapFacts['submissions'][number],
  facts: EnrolmentFacts,
  names: ReadonlyMap<string, string>,
): Submission {
  const counts = countsOf(desk, facts.profile, sitemap, one);
  const { engine, row } = one;
  return {
    id: row.id,
    enrolment: row.enrolmentId,
    enrolmentName: facts.name,
    engine: { id: facts.profile.id, title: facts.profile.title },
    byHand: facts.profile.worked.how === 'hand',
    sentAs: row.sentAs,
    submittedAt: row.submittedAt,
    engineReading: engine && {
      at: engine.at,
      readAt: engine.readAt ?? null,
      found: engine.found ?? null,
      listed: engine.listed ?? null,
      trouble: engine.trouble ?? null,
      recordedBy: engine.recordedBy == null ? null : (names.get(engine.recordedBy) ?? null),
    },
    counts: { state: counts.state, dueBy: counts.dueBy?.toISOString() ?? null, gap: counts.gap },
  };
}

/** The sitemaps of a property, or of all. */
export async function listSitemaps(desk: Desk, propertyRef?: string): Promise<{ items: Sitemap[] }> {
  const properties =
    propertyRef === undefined
      ? await PropertyRow.findAll({ where: { archivedAt: null }, order: ['handle'] })
      : [await findProperty(propertyRef)];
  const ids = properties.map(({ id }) => id);
  const facts = await enrolmentFacts(
    desk,
    await EnrolmentRow.findAll({ where: { propertyId: ids, endedAt: null } }),
  );
  const enrolmentOf = new Map(facts.map((one) => [one.row.id, one]));
  const all = await sitemapFacts(desk, ids);
  const names = await personNames(
    [...all.values()]
      .flat()
      .flatMap(({ submissions }) => submissions.map(({ engine }) => engine?.recordedBy)),
  );
  const items = properties.flatMap((property) =>
    (all.get(property.id) ?? []).map((sitemap): Sitemap => {
      const { row, reading, state } = sitemap;
      return {
        id: row.id,
        property: { id: property.id, handle: property.handle },
        url: row.url,
        state,
        reading: reading && {
          id: reading.id,
          at: reading.at,
          kind: reading.kind ?? null,
          addresses: reading.addresses,
          children: reading.children,
          newestLastmod: reading.newestLastmod ?? null,
          findings: reading.findings.map((one) => ({ ...one, evidence: { ...one.evidence } })),
        },
        submissions: sitemap.submissions
          .flatMap((one) => {
            const enrolment = enrolmentOf.get(one.row.enrolmentId);
            return enrolment ? [viewSubmission(desk, sitemap, one, enrolment, names)] : [];
          })
          .sort((a, b) => a.enrolmentName.localeCompare(b.enrolmentName)),
        createdAt: row.createdAt,
      };
    }),
  );
  return { items };
}

/** Notes a sitemap of a property, from a path or an address. One that is there already is shown as it is. */
export async function addSitemap(
  desk: Desk,
  actor: Actor,
  input: { property: string; address: string },
): Promise<NewSitemap> {
  const property = await findProperty(input.property);
  const entry = readSitemapEntry(doorOf(property), input.address);
  if (entry.kind === 'refused') throw new Problem('bad-address', entry.says);
  const { url } = entry;
  await desk.store.write(async (transaction) => {
    const [row, isNew] = await SitemapRow.findOrCreate({
      where: { propertyId: property.id, url },
      defaults: { id: newId(), propertyId: property.id, url, createdAt: nowText(desk) },
      transaction,
    });
    if (isNew)
      await note(desk, actor, transaction, {
        kind: 'sitemap.added',
        says: `Sitemap ${url} was noted.`,
        property,
        details: { sitemap: row.id },
      });
  });
  const { items } = await listSitemaps(desk, property.id);
  const added = items.find((one) => one.url === url);
  if (!added) throw new Error('a sitemap that was just noted is there');
  return { ...added, note: entry.note };
}

/** One piece for each sitemap that is to be read. */
export async function readPieces(which: {
  property?: string;
  sitemap?: string;
  all?: boolean;
}): Promise<NewPiece[]> {
  const rows =
    which.sitemap !== undefined
      ? [await findSitemap(which.sitemap)]
      : await SitemapRow.findAll({
          where: which.property === undefined ? {} : { propertyId: (await findProperty(which.property)).id },
          order: ['url'],
        });
  return rows.map((row) => ({ subject: row.url, input: { sitemapId: row.id } }));
}

/** One piece of a reading job: our own reading, then what the engines say of theirs. */
export async function runRead(desk: Desk, piece: Piece): Promise<JobResult> {
  const { sitemapId } = piece.input as { sitemapId: string };
  const row = await SitemapRow.findByPk(sitemapId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const read = await readWhole(desk.net, row.url, desk.clock.now());
  const around = await surroundingsOf(desk, row);
  const whole = { ...read, findings: [...read.findings, ...judgeSurroundings(row.url, read, around)] };
  const state = stateOf(whole.findings);
  await desk.store.write(async (transaction) => {
    await ReadingRow.create(
      {
        id: newId(),
        sitemapId,
        at: nowText(desk),
        kind: whole.kind,
        addresses: whole.addresses,
        children: whole.children,
        newestLastmod: whole.newestLastmod,
        findings: [...whole.findings],
      },
      { transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: 'sitemap.read',
      says: `Read ${row.url}: ${state}, ${String(whole.addresses)} addresses.`,
      property,
    });
  });
  const troubles = await readEngines(desk, piece.actor, property, sitemapId);
  const worst = whole.findings.find((one) => one.grade === 'stops') ?? whole.findings[0];
  const says = [`${state}, ${String(whole.addresses)} addresses.`, worst?.says, ...troubles]
    .filter(Boolean)
    .join(' ');
  return { says, stops: state !== 'clean', sitemap: sitemapId };
}

/** What a reading is held against: the robots.txt beside it, and the reading before. */
async function surroundingsOf(desk: Desk, row: SitemapRow): Promise<Surroundings> {
  const [before, robots] = await Promise.all([
    ReadingRow.findOne({ where: { sitemapId: row.id, kind: { [Op.ne]: null } }, order: [['at', 'DESC']] }),
    robotsAt((url) => desk.net.page(url), row.url),
  ]);
  return {
    robots,
    agents: agentsOf(desk),
    before: before && { addresses: before.addresses, at: new Date(before.at) },
    now: desk.clock.now(),
  };
}

/** Asks each engine that has the sitemap what it made of it. An engine that does not answer stops no other. */
async function readEngines(
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
    const now = outcome.value.find(({ ref }) => ref === submission.ref);
    if (now && isNews(before, now))
      await recordEngineReading(desk, actor, property, submission.id, enrolment.engine, now);
  }
  return troubles;
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
    await EngineReadingRow.create(
      { id: newId(), submissionId, at: nowText(desk), readAt, found, listed, trouble, recordedBy },
      { transaction },
    );
    await note(desk, actor, transaction, { kind: 'sitemap.engine-read', says, property });
  });
}
