import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ContentsRow } from '../../store/models/contents.js';
import { Shelf } from '../../store/shelf.js';
import type { Desk } from '../context/desk.js';

/** Sitemaps whose addresses are kept to be looked at, and addresses of one: some four hundred megabytes each at the most. */
const MOST_SHELVES = 20;
export const MOST_ENTRIES = 2_000_000;
/** More addresses no file has; by it the place of one is made, so that all stand in order whichever file comes first. */
export const MOST_IN_FILE = 100_000;
/** Shelves that are open at a time: as many as there are, so that nobody’s is closed while it is read. */
const MOST_OPEN = MOST_SHELVES;

export const TABLES = [
  `CREATE TABLE entries (place INTEGER PRIMARY KEY, file INTEGER NOT NULL, line INTEGER NOT NULL, address TEXT NOT NULL, folder INTEGER NOT NULL,
     lastmod TEXT, time INTEGER, faults TEXT)`,
  'CREATE TABLE files (file INTEGER PRIMARY KEY, url TEXT NOT NULL)',
  `CREATE TABLE folders (id INTEGER PRIMARY KEY, parent INTEGER, path TEXT NOT NULL, own INTEGER NOT NULL, total INTEGER NOT NULL, depth INTEGER NOT NULL,
     place INTEGER NOT NULL, last INTEGER NOT NULL)`,
];

/** Made once all is there: that is quicker than keeping them up to date. */
export const INDEXES = [
  'CREATE INDEX entries_address ON entries (address)',
  'CREATE INDEX entries_folder ON entries (folder)',
  'CREATE INDEX entries_time ON entries (time) WHERE time IS NOT NULL',
  'CREATE INDEX entries_faults ON entries (faults) WHERE faults IS NOT NULL',
  'CREATE INDEX folders_path ON folders (path)',
  'CREATE INDEX folders_parent ON folders (parent, place)',
];

const open = new Map<string, Promise<Shelf>>();

export function shelfFile({ store }: Desk, id: string): string {
  return join(store.shelves, `inside-${id}.sqlite`);
}

/** The shelf of a sitemap, opened once for all who look at it. */
export function shelfOf(desk: Desk, id: string): Promise<Shelf> {
  const known = open.get(id);
  // The one that was used last stands last.
  open.delete(id);
  const shelf = known ?? Promise.resolve(Shelf.open(shelfFile(desk, id)));
  open.set(id, shelf);
  for (const [other] of [...open].slice(0, Math.max(0, open.size - MOST_OPEN))) void closeShelf(other);
  return shelf;
}

export async function closeShelf(id: string): Promise<void> {
  const shelf = open.get(id);
  open.delete(id);
  await (await shelf)?.close();
}

export async function closeShelves(): Promise<void> {
  await Promise.all([...open.keys()].map(closeShelf));
}

/** Throws away what is on record no longer, or was never finished; and what nobody has looked at for longest, where there is too much. */
export async function tidyShelves(desk: Desk): Promise<void> {
  const rows = await ContentsRow.findAll({ order: [['usedAt', 'DESC']], attributes: ['sitemapId', 'id'] });
  for (const row of rows.slice(MOST_SHELVES))
    await desk.store.write((transaction) => row.destroy({ transaction }));
  const kept = new Set(rows.slice(0, MOST_SHELVES).map(({ id }) => shelfFile(desk, id)));
  for (const name of readdirSync(desk.store.shelves)) {
    const file = join(desk.store.shelves, name);
    const [, id = ''] = /^inside-(.+)\.sqlite/u.exec(name) ?? [];
    if (id === '' || kept.has(file)) continue;
    await closeShelf(id);
    rmSync(file, { force: true });
  }
}
