import type { Progress, Yard } from '../../api/documents.js';
import { BADGES } from '../../core/badge/standing.js';
import type { Desk } from '../context/desk.js';
import type { Projections } from './projections.js';
import {
  contains,
  equals,
  filterFor,
  holds,
  pageOf,
  placeOf,
  readShelf,
  type Conditions,
  type Filter,
  type PageOf,
  type Shelved,
} from '../lists/narrow.js';
import type { Ready } from '../lists/document-text.js';

const CONDITIONS: Conditions = {
  client: equals('clientId'),
  property: equals('propertyId'),
  engine: holds('badges'),
  badge: holds('badges'),
  kind: holds('kinds'),
  match: contains('words'),
};

/** One page of the yard: properties by handle, with their enrolments at every engine. */
export async function readYard(desk: Desk, kept: Projections, query: PageOf): Promise<Ready<Yard>> {
  await kept.current();
  const place = placeOf(query);
  const filter = await filterFor(desk, query, CONDITIONS);
  const found = await readShelf(desk, { table: 'yard_rows', order: 'handle' }, filter, place);
  const { items, next } = pageOf(found, place.limit);
  const [engines, counts, progress] = await Promise.all([
    columnsFor(desk, found.slice(0, place.limit)),
    countBadges(desk, kept, filter),
    progressWith(desk, kept, filter),
  ]);
  return { engines, items, counts, progress, next };
}

/** How many properties there are with a filter (`all`), and how many have a badge of each kind. */
function countBadges(
  desk: Desk,
  kept: Projections,
  { sql, values }: Filter,
): Promise<Record<string, number>> {
  return kept.countedOnce(`yard ${sql} ${JSON.stringify(values)}`, async () => {
    const sums = BADGES.map((badge) => `TOTAL(instr(badges, ' ${badge} ') > 0) AS "${badge}"`);
    const [row = {}] = await desk.store.select<Record<string, number>>(
      `SELECT COUNT(*) AS "all", ${sums.join(', ')} FROM yard_rows WHERE true ${sql}`,
      values,
    );
    return row;
  });
}

/** How far the taking on of all properties with a filter is. */
function progressWith(desk: Desk, kept: Projections, { sql, values }: Filter): Promise<Progress> {
  return kept.countedOnce(`progress ${sql} ${JSON.stringify(values)}`, async () => {
    const [row] = await desk.store.select<Omit<Progress, 'next'>>(
      `SELECT CAST(TOTAL(done) AS INTEGER) AS done, CAST(TOTAL(stages) AS INTEGER) AS total FROM yard_rows WHERE true ${sql}`,
      values,
    );
    return { done: row?.done ?? 0, total: row?.total ?? 0, next: null };
  });
}

/** The engines that matter on a page: fitting or enrolled with, and those that show the results of such a one. */
async function columnsFor(desk: Desk, rows: readonly Shelved[]): Promise<Yard['engines']> {
  const matter = rows.length === 0 ? null : await enginesIn(desk, rows);
  const own = [...desk.book.profiles.values()].filter(({ id }) => matter?.has(id) ?? true);
  const borrowing = [...desk.book.borrowed.values()].filter(({ worked }) =>
    own.some(({ id }) => id === worked.from),
  );
  return [
    ...own.map(({ id, title }) => ({ id, title, from: null })),
    ...borrowing.map(({ id, title, worked }) => ({
      id,
      title,
      from: { id: worked.from, title: desk.book.titleOf(worked.from) },
    })),
  ];
}

/** The engines that matter to a property of a page, or have one enrolled. */
async function enginesIn(desk: Desk, rows: readonly Shelved[]): Promise<ReadonlySet<string>> {
  const named = await desk.store.select<{ engines: string }>(
    'SELECT DISTINCT engines FROM yard_rows WHERE handle IN (SELECT value FROM json_each($handles))',
    { handles: JSON.stringify(rows.map(({ place }) => place)) },
  );
  return new Set(named.flatMap(({ engines }) => engines.trim().split(' ')));
}
