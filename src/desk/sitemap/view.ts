import type { ReadingLine, Sitemap, SitemapDetail, Sitemaps, Submission } from '../../api/documents.js';
import { judgeSubmission } from '../../core/sitemap/at-engine.js';
import type { SitemapOrder } from '../../core/sitemap/list-order.js';
import { NO_EXTENSIONS, stateOf } from '../../core/sitemap/reading.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { ReadingChildRow, ReadingSetRow } from '../../store/models/reading-sets.js';
import { EngineReadingRow, ReadingRow, type SubmissionRow } from '../../store/models/sitemaps.js';
import { enrolmentFacts, type EnrolmentFacts } from '../facts.js';
import { personNames } from '../journal.js';
import type { Desk } from '../parts.js';
import { findProperty, findSitemap } from '../refs.js';
import type { KeptReady } from '../standing/kept-ready.js';
import {
  contains,
  countBy,
  equals,
  filterFor,
  holds,
  pageOf,
  placeOf,
  readShelf,
  type Conditions,
  type PageOf,
} from '../standing/narrow.js';
import { countsOf, sitemapFacts, type SitemapFacts, type SubmissionFacts } from './facts.js';

/** Children of an index that are shown. */
const MOST_CHILDREN = 1_000;
const MOST_READINGS = 400;

const COLUMNS: Readonly<Record<SitemapOrder, string>> = {
  property: 'byProperty',
  gap: 'byGap',
  age: 'byAge',
  fall: 'byFall',
};

const CONDITIONS: Conditions = {
  client: equals('clientId'),
  engine: holds('counts'),
  state: equals('state'),
  work: equals('work'),
  match: contains('words'),
};

/** The sitemaps of a property in whole; a page of those of many in brief. */
export async function listSitemaps(
  desk: Desk,
  kept: KeptReady,
  query: PageOf & { readonly brief?: boolean; readonly order?: SitemapOrder },
): Promise<Sitemaps> {
  if (query.property !== undefined) {
    const items = await viewAll(desk, [await findProperty(query.property)]);
    return {
      items: query.brief === true ? items.map(inBrief) : items,
      next: null,
      counts: countStates(items),
    };
  }
  await kept.current();
  const place = placeOf(query);
  const filter = await filterFor(desk, query, CONDITIONS);
  const shelf = { table: 'sitemap_rows', order: COLUMNS[query.order ?? 'property'] };
  const found = await readShelf(desk, shelf, filter, place);
  const counts = await countBy(desk, kept, 'sitemap_rows', 'state', filter);
  return { ...pageOf<Sitemap>(found, place.limit), counts };
}

function countStates(items: readonly Sitemap[]): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { state } of items) counts[state] = (counts[state] ?? 0) + 1;
  return counts;
}

/** A sitemap with no more than the worst of what its reading found. */
export function inBrief(sitemap: Sitemap): Sitemap {
  const { reading } = sitemap;
  if (!reading) return sitemap;
  const stops = reading.findings.find(({ grade }) => grade === 'stops');
  const worst = stops ?? reading.findings.find(({ grade }) => grade === 'harms') ?? reading.findings[0];
  return { ...sitemap, reading: { ...reading, findings: worst ? [worst] : [] } };
}

async function viewAll(desk: Desk, properties: readonly PropertyRow[]): Promise<Sitemap[]> {
  const ids = properties.map(({ id }) => id);
  const [enrolments, all] = await Promise.all([
    EnrolmentRow.findAll({ where: { propertyId: ids, endedAt: null } }),
    sitemapFacts(desk, ids),
  ]);
  const viewed = await viewSitemaps(desk, properties, await enrolmentFacts(desk, enrolments), all);
  return properties.flatMap(({ id }) => viewed.get(id) ?? []);
}

/** The sitemaps of properties as they are shown, by property, from facts that are known already. */
export async function viewSitemaps(
  desk: Desk,
  properties: readonly PropertyRow[],
  enrolments: readonly EnrolmentFacts[],
  all: ReadonlyMap<string, readonly SitemapFacts[]>,
): Promise<Map<string, Sitemap[]>> {
  const facts = new Map(enrolments.map((one) => [one.row.id, one]));
  const sitemaps = [...all.values()].flat();
  const names = await personNames(
    sitemaps.flatMap((one) => one.submissions.map(({ engine }) => engine?.recordedBy)),
  );
  const viewOf = (property: PropertyRow): Sitemap[] =>
    inOrder(all.get(property.id) ?? []).map((sitemap): Sitemap => {
      const submissions = sitemap.submissions
        .flatMap((one) => {
          const enrolment = facts.get(one.row.enrolmentId);
          if (!enrolment) return [];
          return [viewSubmission(desk, sitemap, one, enrolment, names)];
        })
        .sort((a, b) => a.enrolmentName.localeCompare(b.enrolmentName));
      return viewOne(property, sitemap, submissions);
    });
  return new Map(properties.map((property) => [property.id, viewOf(property)]));
}

/** What holds most first: indexes, then sitemaps, then feeds. */
function inOrder(sitemaps: readonly SitemapFacts[]): SitemapFacts[] {
  const rank = ({ reading }: SitemapFacts): number => {
    if (reading?.kind === 'index') return 0;
    return reading?.kind === 'rss' || reading?.kind === 'atom' ? 2 : 1;
  };
  return [...sitemaps].sort((a, b) => rank(a) - rank(b) || a.row.url.localeCompare(b.row.url));
}

function viewSubmission(
  desk: Desk,
  sitemap: SitemapFacts,
  one: SubmissionFacts,
  { profile, name }: EnrolmentFacts,
  names: ReadonlyMap<string, string>,
): Submission {
  const counts = countsOf(desk, profile, sitemap, one);
  const { engine, row, tooMany } = one;
  const findings = judgeSubmission(one.known, counts, {
    ours: sitemap.reading?.addresses ?? null,
    found: engine?.found ?? null,
    listed: engine?.listed ?? null,
    readAt: engine?.readAt == null ? null : new Date(engine.readAt),
    trouble: engine?.trouble ?? null,
    tooMany,
    feedAlone: one.feedAlone,
  });
  return {
    id: row.id,
    enrolment: row.enrolmentId,
    enrolmentName: name,
    engine: { id: profile.id, title: profile.title },
    byHand: profile.worked.how === 'hand',
    sentAs: row.sentAs,
    submittedAt: row.submittedAt,
    engineReading: engine && viewEngineReading(engine, names),
    counts: {
      state: counts.state,
      dueBy: counts.dueBy?.toISOString() ?? null,
      gap: counts.gap,
      since: counts.since?.toISOString() ?? null,
      why: counts.why,
    },
    tooMany,
    findings: findings.map((found) => ({ ...found, evidence: { ...found.evidence } })),
  };
}

function viewEngineReading(
  row: EngineReadingRow,
  names: ReadonlyMap<string, string>,
): NonNullable<Submission['engineReading']> {
  return {
    at: row.at,
    readAt: row.readAt ?? null,
    found: row.found ?? null,
    listed: row.listed ?? null,
    trouble: row.trouble ?? null,
    recordedBy: row.recordedBy == null ? null : (names.get(row.recordedBy) ?? null),
  };
}

function viewOne(
  property: PropertyRow,
  { row, reading, state }: SitemapFacts,
  submissions: Submission[],
): Sitemap {
  return {
    id: row.id,
    property: { id: property.id, handle: property.handle },
    url: row.url,
    state,
    reading: reading && {
      ...viewLine(reading),
      before: reading.before ?? null,
      extensions: { ...(reading.extensions ?? NO_EXTENSIONS) },
      tried: reading.tried,
      findings: reading.findings.map((one) => ({ ...one, evidence: { ...one.evidence } })),
    },
    submissions,
    createdAt: row.createdAt,
  };
}

/** One reading in a line, as a history has it. */
export function viewLine(row: ReadingRow): ReadingLine {
  return {
    id: row.id,
    at: row.at,
    kind: row.kind ?? null,
    state: stateOf(row),
    addresses: row.addresses,
    children: row.children,
    newestLastmod: row.newestLastmod ?? null,
    fingerprint: row.fingerprint ?? null,
  };
}

export async function viewSitemap(desk: Desk, property: PropertyRow, id: string): Promise<Sitemap> {
  const found = (await viewAll(desk, [property])).find((one) => one.id === id);
  if (found) return found;
  throw new Error('a sitemap that is there is shown');
}

/** One sitemap with the sitemaps in it, and what it and the engines' counts were over time. Throws Problem. */
export async function showSitemap(desk: Desk, ref: string): Promise<SitemapDetail> {
  const row = await findSitemap(ref);
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const sitemap = await viewSitemap(desk, property, row.id);
  const [children, total, readings] = await Promise.all([
    ReadingChildRow.findAll({ where: { sitemapId: row.id }, order: ['seq'], limit: MOST_CHILDREN }),
    ReadingChildRow.count({ where: { sitemapId: row.id } }),
    ReadingRow.findAll({ where: { sitemapId: row.id }, order: [['at', 'DESC']], limit: MOST_READINGS }),
  ]);
  const [sets, engines] = await Promise.all([
    ReadingSetRow.findAll({
      where: { readingId: readings.map(({ id }) => id) },
      attributes: ['readingId'],
      raw: true,
    }),
    engineHistory(sitemap.submissions),
  ]);
  const kept = new Set(sets.map(({ readingId }) => readingId));
  return {
    ...sitemap,
    children: children.map((one) => ({
      url: one.url,
      kind: one.kind ?? null,
      state: one.state,
      addresses: one.addresses,
      before: one.before ?? null,
      newestLastmod: one.newestLastmod ?? null,
      says: one.says ?? null,
    })),
    childrenInAll: total,
    readings: readings.map((one) => ({ ...viewLine(one), kept: kept.has(one.id) })),
    engineReadings: engines,
  };
}

/** What the engines said of a sitemap, oldest first. */
async function engineHistory(submissions: readonly Submission[]): Promise<SitemapDetail['engineReadings']> {
  const titleOf = new Map(submissions.map(({ id, engine }) => [id, engine]));
  const rows = await EngineReadingRow.findAll({
    where: { submissionId: [...titleOf.keys()] satisfies SubmissionRow['id'][] },
    order: ['at'],
    limit: MOST_READINGS,
  });
  return rows.flatMap((one) => {
    const engine = titleOf.get(one.submissionId);
    if (!engine) return [];
    const { at, readAt, found, listed, trouble } = one;
    return [
      {
        submission: one.submissionId,
        engine,
        at,
        readAt: readAt ?? null,
        found: found ?? null,
        listed: listed ?? null,
        trouble: trouble ?? null,
      },
    ];
  });
}
