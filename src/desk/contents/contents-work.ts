import { rmSync } from 'node:fs';
import Joi from 'joi';
import { counted } from '../../api/plural.js';
import type { JobResult } from '../../api/documents.js';
import { FolderTree } from '../../core/sitemap/contents/folders.js';
import type { ListedColumns } from '../../core/sitemap/read/listing.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { ContentsRow } from '../../store/models/contents.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { Shelf } from '../../store/shelf.js';
import { nowText, type Desk } from '../context/desk.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { findSitemap } from '../context/references.js';
import { agentsOf } from '../context/robots.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { readWhole } from '../sitemaps/read-whole.js';
import { variantsOf } from '../sitemaps/variants-of.js';
import {
  closeShelf,
  INDEXES,
  MOST_ENTRIES,
  MOST_IN_FILE,
  shelfFile,
  TABLES,
  tidyShelves,
} from './shelves.js';

interface LookInput {
  readonly sitemapId: string;
}

/** Rows that are written at once. */
const AT_ONCE = 2_000;
const COLUMNS = ['place', 'file', 'line', 'address', 'folder', 'lastmod', 'time', 'faults'];
/** W3C Date and Time Formats, and those of feeds. */
const DATED = /^(\d{4}(-\d\d(-\d\d(T[\d:.]+(Z|[+-]\d\d:\d\d))?)?)?|(\w{3}, )?\d{1,2} \w{3} \d{2,4} .*)$/u;

/** All sitemaps are looked into one after the other: each takes disk and a thread. */
const onePlace = new OneAtATime();

/** One piece: a sitemap is fetched, so that its addresses can be looked at. Throws Problem. */
export async function contentsPieces(ref: string): Promise<NewPiece<LookInput>[]> {
  const row = await findSitemap(ref);
  return [{ subject: row.url, input: { sitemapId: row.id }, host: new URL(row.url).hostname }];
}

/** Puts the addresses of a sitemap on a shelf, as they come. */
class Filling {
  private readonly tree = new FolderTree();
  private last: Promise<void> = Promise.resolve();
  private count = 0;
  files = 0;
  isCut = false;

  constructor(private readonly shelf: Shelf) {}

  get entries(): number {
    return this.count;
  }

  /** Takes the addresses of one file; of one at a time, so that those of one stand together. */
  take(url: string, file: number, listed: ListedColumns): Promise<void> {
    this.last = this.last.then(() => this.put(url, file, listed));
    return this.last;
  }

  private async put(
    url: string,
    file: number,
    { addresses, lines, dates, faults }: ListedColumns,
  ): Promise<void> {
    this.files += 1;
    await this.shelf.add('files', ['file', 'url'], [[file, url]]);
    let rows: (string | number | null)[][] = [];
    for (const [at, address] of addresses.entries()) {
      if (this.count >= MOST_ENTRIES) {
        this.isCut = true;
        break;
      }
      this.count += 1;
      const lastmod = dates[at] ?? null;
      const time = lastmod !== null && DATED.test(lastmod) ? Date.parse(lastmod) : NaN;
      rows.push([
        file * MOST_IN_FILE + at + 1,
        file,
        lines[at] ?? 0,
        address,
        this.tree.add(address),
        lastmod,
        Number.isNaN(time) ? null : time,
        faults[at] ?? null,
      ]);
      if (rows.length < AT_ONCE) continue;
      await this.shelf.add('entries', COLUMNS, rows);
      rows = [];
    }
    await this.shelf.add('entries', COLUMNS, rows);
  }

  async end(): Promise<void> {
    await this.last;
    const folders = this.tree.folders();
    for (let at = 0; at < folders.length; at += AT_ONCE)
      await this.shelf.add(
        'folders',
        ['id', 'parent', 'path', 'own', 'total', 'depth', 'place', 'last'],
        folders
          .slice(at, at + AT_ONCE)
          .map((one) => [one.id, one.parent, one.path, one.own, one.total, one.depth, one.place, one.last]),
      );
    for (const index of INDEXES) await this.shelf.run(index);
  }
}

async function look(desk: Desk, { input }: Piece<LookInput>): Promise<JobResult> {
  const row = await SitemapRow.findByPk(input.sitemapId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const id = newId();
  const file = shelfFile(desk, id);
  const shelf = await Shelf.make(file, TABLES);
  try {
    const filling = new Filling(shelf);
    const { reading } = await readWhole(desk.net, row.url, {
      now: desk.clock.now(),
      agents: agentsOf(desk),
      door: await variantsOf(property),
      sample: 0,
      seed: 0,
      keeps: -1,
      shelf: (url, place, listed) => filling.take(url, place, listed),
    });
    if (reading.kind === null) {
      rmSync(file, { force: true });
      const says = reading.findings[0]?.says ?? 'It cannot be read.';
      return { says: `There is nothing to look at: ${says}`, stops: true, sitemap: row.id };
    }
    await filling.end();
    await keep(desk, row.id, { id, kind: reading.kind, filling });
    const cut = filling.isCut ? ', the first of many more' : '';
    return {
      says: `${counted(filling.entries, 'address', 'addresses')} in ${counted(filling.files, 'file')} can be looked at${cut}.`,
      stops: false,
      sitemap: row.id,
    };
  } finally {
    await shelf.close();
    await tidyShelves(desk);
  }
}

async function keep(
  desk: Desk,
  sitemapId: string,
  { id, kind, filling }: { id: string; kind: ContentsRow['kind']; filling: Filling },
): Promise<void> {
  const before = await ContentsRow.findByPk(sitemapId);
  const now = nowText(desk);
  const { entries, files, isCut } = filling;
  const row = { sitemapId, id, at: now, usedAt: now, kind: kind ?? null, entries, files, isCut };
  await desk.store.write((transaction) => ContentsRow.upsert(row, { transaction }));
  if (before) await closeShelf(before.id);
}

export const contentsWork = anyWork<LookInput>({
  kind: 'read-contents',
  lane: 'person',
  input: Joi.object<LookInput, true>({ sitemapId: Joi.string().required() }),
  run: (desk, piece) => onePlace.run('inside', () => look(desk, piece)),
});
