import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { counted } from '../../api/plural.js';
import { Problem } from '../../api/problems.js';
import { finding } from '../../core/findings/catalogue.js';
import { worstFirst, type Finding } from '../../core/findings/finding.js';
import { Chooser } from '../../core/sitemap/make/choose.js';
import { atomText, MOST_RECENT, rssText, type FeedItem } from '../../core/sitemap/make/feed.js';
import type { Selection } from '../../core/sitemap/make/recipe.js';
import {
  ADDRESSES,
  indexText,
  SitemapWriter,
  type Entry,
  type WrittenFile,
} from '../../core/sitemap/make/write.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { MadeFileRow, MadeVersionRow, MakingRow, type MadeFile } from '../../store/models/making.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { AddressList, cameAndWent, type Packed } from './address-list.js';
import { datesOf, gathered, survey, type GatheredRow, type Overall } from './selection.js';
import type { PageMore } from './page-book.js';
import { proofread } from './proofread.js';
import { recipeOf } from './recipes.js';
import { placeOf } from '../context/sitemap-place.js';

const pack = promisify(gzip);
const unpack = promisify(gunzip);
/** Versions of a property that are kept. */
const MOST_VERSIONS = 12;

const oneWriting = new OneAtATime();

/**
 * Writes what was gathered and chosen. What fell by more than it may is held back until somebody says yes.
 * @param as its identifier, so that a second try writes no second version; and whether it may fall
 * @throws Problem where nothing was gathered, or nothing is chosen
 */
export function writeVersion(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  as: { readonly id: string; readonly isAllowed: boolean },
): Promise<MadeVersionRow> {
  return oneWriting.run(property.id, async () => {
    const known = await MadeVersionRow.findByPk(as.id);
    return known ?? new Writing(desk, actor, property, as).run();
  });
}

class Writing {
  private readonly files: MadeFile[] = [];
  private readonly addresses = new AddressList();
  private readonly recent: FeedItem[] = [];

  constructor(
    private readonly desk: Desk,
    private readonly actor: Actor,
    private readonly property: PropertyRow,
    private readonly as: { readonly id: string; readonly isAllowed: boolean },
  ) {}

  async run(): Promise<MadeVersionRow> {
    const { desk, property } = this;
    const making = await latestMaking(property.id);
    const recipeRow = await recipeOf(desk, property);
    const { selection } = recipeRow.recipe;
    if (!making) throw new Problem('nothing-gathered', { property: property.handle });
    const overall = await survey(desk, making.id, selection);
    if (overall.chosen === 0) throw new Problem('nothing-chosen', { property: property.handle });
    const at = placeOf(property, selection);
    await this.write(making, selection, overall, at);
    if (selection.feed !== null && this.recent.length > 0) await this.writeFeed(selection.feed, at);
    const list = await this.addresses.end();
    await this.keepPacked(list);
    this.files.push({ name: ADDRESSES, sum: list.sum, bytes: list.bytes, entries: this.addresses.count });
    const before = await latestVersion(property.id);
    const difference = before ? await this.difference(before, list.packed) : null;
    const fall = before && before.addresses > 0 ? 1 - this.addresses.count / before.addresses : 0;
    const isHeld = fall * 100 > recipeRow.mostFall && !this.as.isAllowed;
    const findings = worstFirst([
      ...(await proofread(desk, property, at, this.contents())),
      ...(overall.alike === null
        ? []
        : [finding('making.dates-alike', { count: overall.manyAlike, date: overall.alike })]),
    ]);
    return desk.store.write((transaction) =>
      this.record({ making, difference, findings, isHeld, before, transaction }),
    );
  }

  private async record(given: {
    making: MakingRow;
    difference: { came: number; went: number } | null;
    findings: Finding[];
    isHeld: boolean;
    before: MadeVersionRow | null;
    transaction: Transaction;
  }): Promise<MadeVersionRow> {
    const { making, difference, findings, isHeld, before, transaction } = given;
    const { desk, property, actor } = this;
    const { count } = this.addresses;
    const heldBack = isHeld
      ? `It fell from ${String(before?.addresses ?? 0)} to ${counted(count, 'address', 'addresses')}: more than may go without a yes.`
      : null;
    const row = await MadeVersionRow.create(
      {
        id: this.as.id,
        propertyId: property.id,
        makingId: making.id,
        at: nowText(desk),
        addresses: count,
        came: difference?.came ?? null,
        went: difference?.went ?? null,
        heldBack,
        findings,
        files: this.files,
        personId: actor.personId,
      },
      { transaction },
    );
    await tidyVersions(desk, property.id, transaction);
    const change = difference ? ` (${String(difference.came)} came, ${String(difference.went)} went)` : '';
    await note(desk, actor, transaction, {
      kind: 'sitemap.made',
      says: `Made a sitemap of ${property.handle}: ${counted(count, 'address', 'addresses')}${change}.${heldBack === null ? '' : ` ${heldBack}`}`,
      property,
    });
    return row;
  }

  private async write(making: MakingRow, selection: Selection, overall: Overall, at: string): Promise<void> {
    const { desk } = this;
    const chooser = new Chooser(selection, desk.clock.now());
    const written: WrittenFile[] = [];
    const newest: (string | null)[] = [];
    const names: string[] = [];
    const writer = new SitemapWriter(desk.sitemaps.namespaces, (file) => written.push(file));
    let newestHere: string | null = null;
    const settle = async (): Promise<void> => {
      for (const file of written.splice(0)) {
        newest.push(newestHere);
        newestHere = null;
        names.push(await this.keep(file.name, file.text, file.entries, selection.gzip));
      }
    };
    const wantsMore = selection.extensions.length > 0;
    for await (const row of gathered(desk.store, making.id, wantsMore)) {
      if (chooser.against(row) !== null || overall.tooOld?.has(row.url) === true) continue;
      const date = chooser.changedAt({ dates: datesOf(row) });
      const lastmod = overall.alike === null ? date : null;
      if (date !== null) this.offer({ url: row.url, title: row.title ?? row.url, changedAt: date });
      writer.add({
        url: row.url,
        lastmod,
        ...chooser.weighing(row),
        ...extrasOf(row, selection, new URL(at).hostname),
      });
      await this.addresses.add(row.url);
      if (written.length > 0) await settle();
      if (lastmod !== null && (newestHere === null || Date.parse(lastmod) > Date.parse(newestHere)))
        newestHere = lastmod;
    }
    writer.end();
    await settle();
    const place = new URL(at).pathname.split('/').at(-1) ?? 'sitemap.xml';
    const [only] = this.files;
    if (this.files.length === 1 && only) {
      this.files[0] = { ...only, name: place };
      return;
    }
    const children = names.map((name, nth) => ({
      url: new URL(name, at).href,
      lastmod: newest[nth] ?? null,
    }));
    await this.keep('sitemap.xml', indexText(children), children.length, selection.gzip);
    this.files.unshift(...this.files.splice(-1));
  }

  /** Keeps the most recent pages for the feed. */
  private offer(item: FeedItem): void {
    this.recent.push(item);
    if (this.recent.length < MOST_RECENT * 4) return;
    this.sortRecent();
  }

  private sortRecent(): void {
    this.recent.sort((a, b) => Date.parse(b.changedAt) - Date.parse(a.changedAt) || (a.url < b.url ? -1 : 1));
    this.recent.splice(MOST_RECENT);
  }

  private async writeFeed(feed: 'atom' | 'rss', at: string): Promise<void> {
    this.sortRecent();
    const name = feed === 'atom' ? 'recent.atom' : 'recent.rss';
    const own = new URL(name, at).href;
    const title = this.property.handle;
    const text = (feed === 'atom' ? atomText : rssText)(own, title, this.recent);
    await this.keep(name, text, this.recent.length, false);
  }

  /** Keeps a file, once for all versions that have it. @returns the name that it has at last */
  private async keep(name: string, text: string, entries: number, isPacked: boolean): Promise<string> {
    const plain = Buffer.from(text);
    const sum = createHash('sha256').update(plain).digest('hex');
    const packed = await pack(plain, { level: 6 });
    await this.keepPacked({ sum, packed });
    const file = {
      name: isPacked ? `${name}.gz` : name,
      sum,
      bytes: isPacked ? packed.length : plain.length,
      entries,
    };
    this.files.push(file);
    return file.name;
  }

  private async *contents(): AsyncGenerator<{ name: string; bytes: Buffer }> {
    for (const file of this.files)
      if (file.name !== ADDRESSES) yield { name: file.name, bytes: (await fileOf(file.sum)).text };
  }

  private async keepPacked({ sum, packed }: Pick<Packed, 'sum' | 'packed'>): Promise<void> {
    await this.desk.store.writeQuietly((transaction) =>
      MadeFileRow.bulkCreate([{ sum, packed }], { ignoreDuplicates: true, transaction }),
    );
  }

  private async difference(before: MadeVersionRow, now: Buffer): Promise<{ came: number; went: number }> {
    const list = before.files.find(({ name }) => name === ADDRESSES);
    const old = list ? (await MadeFileRow.findByPk(list.sum, { rejectOnEmpty: true })).packed : null;
    return old ? cameAndWent(old, now) : { came: this.addresses.count, went: 0 };
  }
}

/** What the extensions say of a page, where they are wanted. */
function extrasOf(row: GatheredRow, { extensions }: Selection, name: string): Partial<Entry> {
  if (row.more === null || extensions.length === 0) return {};
  const more = JSON.parse(row.more) as PageMore;
  const isNews = extensions.includes('news') && row.kind === 'article' && more.published !== undefined;
  return {
    ...(extensions.includes('images') && more.images ? { images: more.images } : {}),
    ...(extensions.includes('videos') && more.videos ? { videos: more.videos } : {}),
    ...(extensions.includes('alternates') && more.siblings ? { alternates: more.siblings } : {}),
    ...(isNews
      ? {
          news: {
            name,
            language: (more.language ?? 'en').slice(0, 2).toLowerCase(),
            published: more.published ?? '',
            title: row.title ?? row.url,
          },
        }
      : {}),
  };
}

/** The newest gathering of a property that is over. */
export function latestMaking(propertyId: string): Promise<MakingRow | null> {
  return MakingRow.findOne({
    where: { propertyId, ended: ['all', 'pages', 'minutes', 'megabytes'] },
    order: [['startedAt', 'DESC']],
  });
}

/** The newest version that is not held back. */
export function latestVersion(propertyId: string): Promise<MadeVersionRow | null> {
  return MadeVersionRow.findOne({ where: { propertyId, heldBack: null }, order: [['at', 'DESC']] });
}

/** What a file holds, as text and packed (RFC 1952). */
export async function fileOf(sum: string): Promise<{ text: Buffer; packed: Buffer }> {
  const { packed } = await MadeFileRow.findByPk(sum, { rejectOnEmpty: true });
  return { text: await unpack(packed), packed };
}

/** Lets go of versions beyond those that are kept, and of files that none has any more. */
async function tidyVersions(desk: Desk, propertyId: string, transaction: Transaction): Promise<void> {
  const rows = await MadeVersionRow.findAll({
    where: { propertyId },
    order: [['at', 'DESC']],
    offset: MOST_VERSIONS,
    transaction,
  });
  if (rows.length === 0) return;
  await MadeVersionRow.destroy({ where: { id: rows.map(({ id }) => id) }, transaction });
  const sums = [...new Set(rows.flatMap(({ files }) => files.map(({ sum }) => sum)))];
  await desk.store.run(
    `DELETE FROM made_files WHERE sum IN (SELECT value FROM json_each($sums)) AND sum NOT IN
       (SELECT f.value->>'sum' FROM made_versions v, json_each(v.files) f)`,
    { sums: JSON.stringify(sums) },
    transaction,
  );
}
