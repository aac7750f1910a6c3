import type {
  ContentsState,
  SitemapContents,
  SitemapUrl,
  SitemapFolder,
  SitemapOutline,
} from '../../api/documents.js';
import type { ContentsQuery } from '../../api/contents/routes.js';
import { Problem } from '../../api/problems.js';
import { faultWords } from '../../core/sitemap/contents/fault-words.js';
import type { EntryOrder } from '../../core/sitemap/contents/orders.js';
import { ContentsRow } from '../../store/models/contents.js';
import type { SitemapRow } from '../../store/models/sitemaps.js';
import type { Shelf } from '../../store/shelf.js';
import { nowText, type Desk } from '../context/desk.js';
import { findSitemap } from '../context/references.js';
import { askedAbout, type AskedAbout } from './lookup-answers.js';
import { MOST_IN_FILE, shelfOf } from './shelves.js';

/** Addresses that are read at once where all are wanted. */
const AT_ONCE = 5_000;
/** Folders that are told at once. */
const MOST_FOLDERS = 500;
/** How many counts are remembered, so that turning a page does not count again. */
const MOST_COUNTS = 200;
const USED_MS = 3_600_000;
/** So many addresses of a folder are put in order in no time. */
const FEW = 5_000;

interface Row {
  readonly place: number;
  readonly address: string;
  readonly lastmod: string | null;
  readonly file: number;
  readonly line: number;
  readonly faults: string | null;
  readonly url: string;
}

type Values = Record<string, string | number | null | (string | number | null)[]>;

/** A sitemap that somebody has looked into. */
interface Opened {
  readonly sitemap: SitemapRow;
  readonly row: ContentsRow;
  readonly shelf: Shelf;
}

/** @throws Problem where the contents were not fetched yet */
async function opened(desk: Desk, ref: string): Promise<Opened> {
  const sitemap = await findSitemap(ref);
  const row = await ContentsRow.findByPk(sitemap.id);
  if (!row) throw new Problem('contents-not-read', { url: sitemap.url });
  if (Date.parse(nowText(desk)) - Date.parse(row.usedAt) > USED_MS)
    await desk.store.writeQuietly((transaction) => row.update({ usedAt: nowText(desk) }, { transaction }));
  return { sitemap, row, shelf: await shelfOf(desk, row.id) };
}

function viewContents({ at, kind, entries, files, isCut }: ContentsRow): ContentsState {
  return { at, kind: kind ?? null, entries, files, cut: isCut };
}

const ORDERS: Readonly<
  Record<EntryOrder, { by: string; column: 'address' | 'time' | null; sign: '<' | '>' }>
> = {
  place: { by: 'e.place', column: null, sign: '>' },
  address: { by: 'e.address, e.place', column: 'address', sign: '>' },
  newest: { by: 'e.time DESC, e.place', column: 'time', sign: '<' },
  oldest: { by: 'e.time, e.place', column: 'time', sign: '>' },
};

/** What the addresses have to be like, as SQL, whose values are bound. Throws Problem for a folder that is none. */
async function conditions(
  { sitemap, shelf }: Opened,
  asked: ContentsQuery,
  about: AskedAbout,
): Promise<{ where: string[]; values: Values }> {
  const where: string[] = [];
  const values: Values = {};
  if (asked.match !== undefined && asked.match !== '') {
    where.push(`e.address LIKE $match ESCAPE '\\'`);
    values['match'] = `%${asked.match.replace(/[\\%_]/gu, '\\$&')}%`;
  }
  if (asked.folder !== undefined && asked.folder !== '') {
    const [folder] = await shelf.select<{ place: number; last: number; total: number }>(
      'SELECT place, last, total FROM folders WHERE path = $path',
      { path: folderAt(sitemap, asked.folder) },
    );
    if (!folder) throw new Problem('no-such-folder', { folder: asked.folder });
    // Of much that is in it, the first are found soonest by going through all in order; the sign keeps the index out of it.
    const column = folder.total > FEW ? '+e.folder' : 'e.folder';
    where.push(`${column} IN (SELECT id FROM folders WHERE place BETWEEN $place AND $last)`);
    Object.assign(values, { place: folder.place, last: folder.last });
  }
  if (asked.file !== undefined) {
    where.push('e.file = $file');
    values['file'] = asked.file;
  }
  if (asked.since !== undefined) {
    where.push('e.time >= $since');
    values['since'] = Date.parse(asked.since);
  }
  if (asked.until !== undefined) {
    where.push('e.time < $until');
    values['until'] = Date.parse(asked.until);
  }
  if (asked.finding === 'any') where.push('e.faults IS NOT NULL');
  else if (asked.finding !== undefined) {
    where.push(`e.faults IS NOT NULL AND ' ' || e.faults || ' ' LIKE $finding`);
    values['finding'] = `% ${asked.finding} %`;
  }
  if (asked.asked !== undefined) {
    const wanted = asked.asked === 'any' ? null : asked.asked === 'listed';
    values['about'] = [
      ...[...about].flatMap(([address, all]) =>
        all.some(({ listed }) => wanted === null || listed === wanted) ? [address] : [],
      ),
      '',
    ];
    where.push('e.address IN (SELECT value FROM json_each($about))');
  }
  return { where, values };
}

/** A folder by its whole address, or by its path on the sitemap's own host. */
function folderAt({ url }: SitemapRow, text: string): string {
  return text.startsWith('/') ? new URL(url).origin + text : text;
}

const counts = new Map<string, number>();

/** How many there are; counted once until they are fetched anew. */
async function countOf(
  { row, shelf }: Opened,
  asked: ContentsQuery,
  where: string[],
  values: Values,
): Promise<number> {
  if (where.length === 0) return row.entries;
  const key = JSON.stringify([
    row.id,
    { ...asked, order: null },
    asked.asked === undefined ? null : values['about'],
  ]);
  const known = counts.get(key);
  if (known !== undefined) return known;
  const [found] = await shelf.select<{ count: number }>(
    `SELECT count(*) AS count FROM entries e WHERE ${where.join(' AND ')}`,
    values,
  );
  for (const first of counts.keys()) {
    if (counts.size < MOST_COUNTS) break;
    counts.delete(first);
  }
  counts.set(key, found?.count ?? 0);
  return found?.count ?? 0;
}

/**
 * A page of the addresses of a sitemap.
 * @throws Problem where the contents were not fetched yet, or of a cursor from another look
 */
export async function listContents(
  desk: Desk,
  ref: string,
  asked: ContentsQuery & { after?: string | undefined; limit?: number },
): Promise<SitemapContents> {
  const inside = await opened(desk, ref);
  const { after, limit = 100, ...narrow } = asked;
  const about = await askedAbout(desk, inside.sitemap.propertyId);
  const { where, values } = await conditions(inside, narrow, about);
  const [count, rows] = await Promise.all([
    countOf(inside, narrow, where, values),
    pageOf(inside, narrow.order ?? 'place', after, limit + 1, where, values),
  ]);
  const items = rows.slice(0, limit);
  const last = items.at(-1);
  return {
    contents: viewContents(inside.row),
    count,
    items: items.map((row) => viewEntry(row, about)),
    next: rows.length > limit && last ? `${inside.row.id}_${String(last.place)}` : null,
  };
}

async function pageOf(
  { row, shelf }: Opened,
  order: EntryOrder,
  after: string | undefined,
  limit: number,
  where: readonly string[],
  values: Values,
): Promise<Row[]> {
  const { by, column, sign } = ORDERS[order];
  const all = [...where];
  const bound: Values = { ...values, limit };
  if (column === 'time') all.push('e.time IS NOT NULL');
  if (after !== undefined) {
    const [, id, place] = /^(.+)_(\d{1,12})$/u.exec(after) ?? [];
    if (id !== row.id) throw new Problem('bad-cursor');
    bound['from'] = Number(place);
    if (column === null) all.push(`e.place ${sign} $from`);
    else {
      const [here] = await shelf.select<{ key: string | number | null }>(
        `SELECT ${column} AS key FROM entries WHERE place = $from`,
        { from: Number(place) },
      );
      bound['key'] = here?.key ?? null;
      all.push(`(e.${column} ${sign} $key OR (e.${column} = $key AND e.place > $from))`);
    }
  }
  return shelf.select<Row>(
    `SELECT e.place, e.address, e.lastmod, e.file, e.line, e.faults, f.url FROM entries e JOIN files f ON f.file = e.file
       ${all.length === 0 ? '' : `WHERE ${all.join(' AND ')}`} ORDER BY ${by} LIMIT $limit`,
    bound,
  );
}

function viewEntry({ place, address, lastmod, url, line, faults }: Row, about: AskedAbout): SitemapUrl {
  return {
    nth: place % MOST_IN_FILE,
    address,
    lastmod,
    file: url,
    line,
    findings: (faults?.split(' ') ?? []).map((code) => ({ code, says: faultWords(code) })),
    asked: about.get(address) ?? [],
  };
}

/** Every address that is meant, piece by piece. */
export async function* allContents(
  desk: Desk,
  ref: string,
  asked: ContentsQuery,
): AsyncGenerator<SitemapUrl[]> {
  let after: string | null = null;
  do {
    const page: SitemapContents = await listContents(desk, ref, {
      ...asked,
      limit: AT_ONCE,
      after: after ?? undefined,
    });
    yield page.items;
    after = page.next;
  } while (after !== null);
}

/** What stands in a sitemap, in sum. Throws Problem. */
export async function outlineSitemap(desk: Desk, ref: string, under?: string): Promise<SitemapOutline> {
  const { sitemap, row, shelf } = await opened(desk, ref);
  const above = under === undefined || under === '' ? null : await folderId(shelf, folderAt(sitemap, under));
  const [folders, faults, [dates]] = await Promise.all([
    shelf.select<{ path: string; own: number; total: number; place: number; last: number }>(
      `SELECT path, own, total, place, last FROM folders WHERE parent IS $above ORDER BY place LIMIT $limit`,
      { above, limit: MOST_FOLDERS + 1 },
    ),
    shelf.select<{ faults: string; count: number }>(
      'SELECT faults, count(*) AS count FROM entries WHERE faults IS NOT NULL GROUP BY faults',
    ),
    shelf.select<{ dated: number; newest: number | null; oldest: number | null }>(
      'SELECT count(*) AS dated, max(time) AS newest, min(time) AS oldest FROM entries WHERE time IS NOT NULL',
    ),
  ]);
  const sums = new Map<string, number>();
  for (const { faults: codes, count } of faults)
    for (const code of codes.split(' ')) sums.set(code, (sums.get(code) ?? 0) + count);
  const text = (time: number | null | undefined) => (time == null ? null : new Date(time).toISOString());
  return {
    contents: viewContents(row),
    folders: folders.slice(0, MOST_FOLDERS).map((one): SitemapFolder => ({
      folder: one.path,
      own: one.own,
      total: one.total,
      hasBelow: one.last > one.place,
    })),
    more: folders.length > MOST_FOLDERS,
    findings: [...sums]
      .sort(([, a], [, b]) => b - a)
      .map(([code, count]) => ({ code, says: faultWords(code), count })),
    dated: dates?.dated ?? 0,
    newest: text(dates?.newest),
    oldest: text(dates?.oldest),
  };
}

async function folderId(shelf: Shelf, path: string): Promise<number> {
  const [found] = await shelf.select<{ id: number }>('SELECT id FROM folders WHERE path = $path', { path });
  if (!found) throw new Problem('no-such-folder', { folder: path });
  return found.id;
}
