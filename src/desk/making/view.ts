import type { Gathering, MadePage, MadeVersion, Making, Page, Preview } from '../../api/documents.js';
import { paceSays, progressOf } from '../../api/making/words.js';
import { Problem } from '../../api/problems.js';
import { Chooser, type Choice } from '../../core/sitemap/make/choose.js';
import type { PageKind } from '../../core/sitemap/make/recipe.js';
import type { FoundBy, LeftOut } from '../../core/sitemap/make/frontier.js';
import { LEFT_OUT_SAYS } from '../../core/sitemap/make/words.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { MadeVersionRow, MakingRow, type RecipeRow } from '../../store/models/making.js';
import type { Desk } from '../context/desk.js';
import { personNames } from '../context/journal.js';
import { findProperty } from '../context/references.js';
import { datesOf, survey, type GatheredRow } from './selection.js';
import { ADDRESSES } from '../../core/sitemap/make/write.js';
import { placeOf } from '../context/sitemap-place.js';
import { findingsOf } from './findings.js';
import { handedOutAt } from './hand-out.js';
import { recipeOf } from './recipes.js';

/** Addresses of a recipe's list that are shown: all of fifty thousand would be sent with every look at the progress. */
const LISTED_SHOWN = 100;

/** Folders that are told by themselves, and examples of each reason. */
const MOST_FOLDERS = 40;
const MOST_EXAMPLES = 3;

/** How the sitemap of a property is made, what was gathered, and what was written. Throws Problem. */
export async function showMaking(desk: Desk, ref: string): Promise<Making> {
  const property = await findProperty(ref);
  return viewMaking(desk, property);
}

export async function viewMaking(desk: Desk, property: PropertyRow): Promise<Making> {
  const recipe = await recipeOf(desk, property);
  const newest = await MakingRow.findOne({
    where: { propertyId: property.id },
    order: [['startedAt', 'DESC']],
  });
  const versions = await MadeVersionRow.findAll({
    where: { propertyId: property.id },
    order: [['at', 'DESC']],
  });
  const names = await personNames(versions.flatMap(({ personId }) => personId ?? []));
  return {
    property: { id: property.id, handle: property.handle },
    url: placeOf(property, recipe.recipe.selection),
    recipe: { ...recipe.recipe, list: recipe.recipe.list.slice(0, LISTED_SHOWN) },
    listed: recipe.recipe.list.length,
    every: recipe.every ?? null,
    afterChange: recipe.afterChange ?? null,
    nextAt: recipe.nextAt ?? null,
    mostFall: recipe.mostFall,
    handedOutAt: handedOutAt(recipe),
    gathering: newest ? await viewGathering(desk, newest) : null,
    preview: newest?.endedAt != null ? await preview(desk, property, newest, recipe) : null,
    versions: versions.map((row) => viewVersion(row, names)),
  };
}

/** How far a gathering is that runs, in words; null where there is none of that identifier. */
export async function gatheringProgress(desk: Desk, id: string): Promise<string | null> {
  const row = await MakingRow.findByPk(id);
  if (!row) return null;
  const gathering = await viewGathering(desk, row);
  return `${progressOf(gathering)}. ${paceSays(gathering)}`;
}

async function viewGathering(desk: Desk, row: MakingRow): Promise<Gathering> {
  const counts = await desk.store.select<{ state: string; count: number }>(
    'SELECT state, count(*) AS count FROM made_pages INDEXED BY made_pages_state WHERE makingId = $id GROUP BY state',
    { id: row.id },
  );
  const of = (state: string) => counts.find((one) => one.state === state)?.count ?? 0;
  const [inside, out, waiting] = [of('in'), of('out'), of('waiting')];
  return {
    id: row.id,
    state: row.endedAt == null ? 'under-way' : 'ended',
    startedAt: row.startedAt,
    endedAt: row.endedAt ?? null,
    ended: row.ended ?? null,
    found: inside + out + waiting,
    read: inside + out,
    waiting,
    leftOut: out,
    seconds: Math.round(row.ms / 1000),
    bytes: row.bytes,
    atOnce: row.atOnce,
    delay: row.delay ?? null,
  };
}

export function viewVersion(row: MadeVersionRow, names: ReadonlyMap<string, string>): MadeVersion {
  return {
    id: row.id,
    at: row.at,
    by: names.get(row.personId ?? '') ?? null,
    addresses: row.addresses,
    came: row.came ?? null,
    went: row.went ?? null,
    heldBack: row.heldBack ?? null,
    findings: row.findings,
    files: row.files
      .filter(({ name }) => name !== ADDRESSES)
      .map(({ name, bytes, entries }) => ({ name, bytes, entries })),
  };
}

/** What would be written as things are chosen now. */
async function preview(
  desk: Desk,
  property: PropertyRow,
  making: MakingRow,
  row: RecipeRow,
): Promise<Preview> {
  const kinds = new Map<PageKind, { found: number; chosen: number }>();
  const folders = new Map<string, { found: number; chosen: number }>();
  const leftOut = new Map<
    LeftOut | Choice,
    { count: number; examples: { url: string; detail: string | null }[] }
  >();
  const count = <Key>(
    map: Map<Key, { found: number; chosen: number }>,
    key: Key,
    isChosen: boolean,
  ): void => {
    const known = map.get(key) ?? { found: 0, chosen: 0 };
    map.set(key, { found: known.found + 1, chosen: known.chosen + (isChosen ? 1 : 0) });
  };
  const leave = (why: LeftOut | Choice, url: string, detail: string | null, many = 1): void => {
    const known = leftOut.get(why) ?? { count: 0, examples: [] };
    known.count += many;
    if (known.examples.length < MOST_EXAMPLES) known.examples.push({ url, detail });
    leftOut.set(why, known);
  };
  const overall = await survey(desk, making.id, row.recipe.selection, ({ url, kind, folder }, against) => {
    count(kinds, kind, against === null);
    count(folders, folder, against === null);
    if (against !== null) leave(against, url, null);
  });
  for (const url of overall.tooOld ?? []) leave('too-many', url, null);
  const reasons = await desk.store.select<{ why: LeftOut; count: number }>(
    `SELECT why, count(*) AS count FROM made_pages INDEXED BY made_pages_state WHERE makingId = $id AND state = 'out' GROUP BY why`,
    { id: making.id },
  );
  for (const { why, count: many } of reasons) {
    const rows = await desk.store.select<{ url: string; detail: string | null }>(
      `SELECT url, detail FROM made_pages INDEXED BY made_pages_state WHERE makingId = $id AND state = 'out' AND why = $why LIMIT ${String(MOST_EXAMPLES)}`,
      { id: making.id, why },
    );
    leftOut.set(why, { count: many, examples: rows });
  }
  const byFolder = [...folders].sort(([, a], [, b]) => b.found - a.found);
  return {
    chosen: overall.chosen,
    dated: overall.dated,
    kinds: [...kinds].map(([kind, counts]) => ({ kind, ...counts })).sort((a, b) => b.found - a.found),
    folders: byFolder.slice(0, MOST_FOLDERS).map(([folder, counts]) => ({ folder, ...counts })),
    foldersInAll: byFolder.length,
    leftOut: [...leftOut]
      .map(([why, one]) => ({ why, says: LEFT_OUT_SAYS[why], ...one }))
      .sort((a, b) => b.count - a.count),
    findings: await findingsOf(desk, property, making),
  };
}

interface PageRow extends Omit<GatheredRow, 'kind' | 'foundBy'> {
  readonly state: MadePage['state'];
  readonly why: LeftOut | null;
  readonly detail: string | null;
  readonly kind: PageKind | null;
  readonly foundBy: FoundBy;
}

export interface PagesAsked {
  readonly state?: MadePage['state'];
  readonly why?: string;
  readonly folder?: string;
  readonly match?: string;
  readonly after?: string;
  readonly limit?: number;
}

/** Addresses that were gathered, in their order, a page at a time. Throws Problem. */
export async function listMadePages(desk: Desk, ref: string, asked: PagesAsked): Promise<Page<MadePage>> {
  const property = await findProperty(ref);
  const making = await MakingRow.findOne({
    where: { propertyId: property.id },
    order: [['startedAt', 'DESC']],
  });
  if (!making) throw new Problem('nothing-gathered', { property: property.handle });
  const limit = asked.limit ?? 100;
  const conditions = [
    asked.state === undefined ? '' : 'AND state = $state',
    asked.why === undefined ? '' : 'AND why = $why',
    asked.folder === undefined ? '' : 'AND folder = $folder',
    asked.match === undefined ? '' : 'AND instr(lower(url), $match) > 0',
  ].join(' ');
  const rows = await desk.store.select<PageRow>(
    `SELECT url, state, why, detail, depth, foundBy, kind, folder, title, modified, header, seenAt, more FROM made_pages INDEXED BY made_pages_url
       WHERE makingId = $id AND url > $after ${conditions} ORDER BY url LIMIT $limit`,
    {
      id: making.id,
      after: asked.after ?? '',
      state: asked.state ?? null,
      why: asked.why ?? null,
      folder: asked.folder ?? null,
      match: asked.match?.toLowerCase() ?? null,
      limit: limit + 1,
    },
  );
  const { selection } = (await recipeOf(desk, property)).recipe;
  const chooser = new Chooser(selection, desk.clock.now());
  const items = rows.slice(0, limit).map((row): MadePage => {
    const { kind } = row;
    const isIn = row.state === 'in' && kind !== null;
    const said = isIn ? chooser.weighing({ ...row, kind }) : {};
    return {
      url: row.url,
      state: row.state,
      why: isIn ? chooser.against({ ...row, kind }) : row.why,
      detail: row.detail,
      kind,
      title: row.title,
      depth: row.depth,
      foundBy: row.foundBy,
      lastmod: isIn ? chooser.changedAt({ dates: datesOf(row) }) : null,
      priority: said.priority ?? null,
      frequency: said.frequency ?? null,
    };
  });
  return { items, next: rows.length > limit ? (items.at(-1)?.url ?? null) : null };
}
