import type { Sitemap, SitemapDetail, Sitemaps, Submission } from '../../api/documents.js';
import type { SitemapOrder } from '../../core/sitemap/list-order.js';
import { PropertyRow } from '../../store/models/clients.js';
import { ReadingChildRow, ReadingSetRow } from '../../store/models/reading-sets.js';
import { EngineReadingRow, ReadingRow, type SubmissionRow } from '../../store/models/sitemaps.js';
import type { Desk } from '../context/desk.js';
import { findProperty, findSitemap } from '../context/references.js';
import type { Freshness } from '../lists/freshness.js';
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
} from '../lists/narrow.js';
import type { Ready } from '../lists/document-text.js';
import { inBrief, viewAll, viewLine, viewSitemap } from './view.js';

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
  kept: Freshness,
  query: PageOf & { readonly brief?: boolean; readonly order?: SitemapOrder },
): Promise<Sitemaps | Ready<Sitemaps>> {
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
  return { ...pageOf(found, place.limit), counts };
}

function countStates(items: readonly Sitemap[]): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { state } of items) counts[state] = (counts[state] ?? 0) + 1;
  return counts;
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
    order: [['at', 'DESC']],
    limit: MOST_READINGS,
  });
  return rows.reverse().flatMap((one) => {
    const engine = titleOf.get(one.submissionId);
    if (!engine) return [];
    const { at, firstAt, times, readAt, found, listed, trouble } = one;
    return [
      {
        submission: one.submissionId,
        engine,
        at,
        firstAt: firstAt ?? at,
        times,
        readAt: readAt ?? null,
        found: found ?? null,
        listed: listed ?? null,
        trouble: trouble ?? null,
      },
    ];
  });
}
