import { randomBytes } from 'node:crypto';
import { readSitemapEntry } from '../../core/sitemap/entry.js';
import { USUAL_RECIPE, type Recipe } from '../../core/sitemap/make/recipe.js';
import { durationMs } from '../../core/time/duration.js';
import type { RecipeEdit } from '../../api/making/edit.js';
import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { RecipeRow } from '../../store/models/making.js';
import { ownPage } from '../clients/own-page.js';
import { frontDoorOf } from '../context/front-door.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';

/** By how many parts of a hundred a sitemap may fall without a yes, where nobody says. */
const USUAL_FALL = 20;
/** Nobody's website is gone through more often than this by itself. */
const LEAST_AGE_MS = 3_600_000;

/** How the sitemap of a property is made; the usual way, where nobody has said. */
export async function recipeOf(desk: Desk, property: PropertyRow): Promise<RecipeRow> {
  return (
    (await RecipeRow.findByPk(property.id)) ??
    RecipeRow.build({
      propertyId: property.id,
      recipe: USUAL_RECIPE,
      mostFall: USUAL_FALL,
      updatedAt: nowText(desk),
    })
  );
}

/** Changes how the sitemap of a property is made; what is not told stays as it is. Throws Problem. */
export async function editRecipe(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  edit: RecipeEdit,
): Promise<RecipeRow> {
  const row = await recipeOf(desk, property);
  const recipe = merged(property, row.recipe, edit);
  const every = edit.every === undefined ? (row.every ?? null) : edit.every;
  if (every !== null && durationMs(every) < LEAST_AGE_MS)
    throw new Problem('bad-input', {
      says: `every “${every}” is too often; expected an hour (PT1H) or more.`,
    });
  const afterChange = edit.afterChange === undefined ? (row.afterChange ?? null) : edit.afterChange;
  if (afterChange !== null && durationMs(afterChange) < LEAST_AGE_MS)
    throw new Problem('bad-input', {
      says: `afterChange “${afterChange}” is too soon; expected an hour (PT1H) or more.`,
    });
  const hasChanged = every !== (row.every ?? null);
  const stays = hasChanged || (every === null && afterChange === null) ? null : (row.nextAt ?? null);
  const nextAt = every !== null && hasChanged ? later(desk, every) : stays;
  const handle =
    edit.handOut === undefined
      ? (row.handle ?? null)
      : edit.handOut
        ? (row.handle ?? randomBytes(16).toString('base64url'))
        : null;
  const updatedAt = nowText(desk);
  await desk.store.write(async (transaction) => {
    await RecipeRow.upsert(
      {
        propertyId: property.id,
        recipe,
        every,
        afterChange,
        mostFall: edit.mostFall ?? row.mostFall,
        nextAt,
        handle,
        updatedAt,
      },
      { transaction },
    );
    if (Object.keys(edit).length > 0)
      await note(desk, actor, transaction, {
        kind: 'sitemap.recipe',
        says: `How the sitemap of ${property.handle} is made was changed.`,
        property,
        details: { ...edit, list: undefined, changed: Object.keys(edit) },
      });
  });
  return RecipeRow.findByPk(property.id, { rejectOnEmpty: true });
}

/** The time at which it is made next. */
export function later(desk: Desk, every: string): string {
  return new Date(desk.clock.now().getTime() + durationMs(every)).toISOString();
}

function merged(property: PropertyRow, recipe: Recipe, edit: RecipeEdit): Recipe {
  const { reach, selection } = recipe;
  const page = (text: string) => ownPage(property, text);
  const file = (text: string) => fileAddress(property, text);
  return {
    sources: edit.sources ?? recipe.sources,
    list: edit.list?.map(page) ?? recipe.list,
    feeds: edit.feeds?.map(file) ?? recipe.feeds,
    sitemaps: edit.sitemaps?.map(file) ?? recipe.sitemaps,
    reach: {
      pages: edit.pages ?? reach.pages,
      depth: edit.depth ?? reach.depth,
      minutes: edit.minutes ?? reach.minutes,
      megabytes: edit.megabytes ?? reach.megabytes,
      row: edit.row ?? reach.row,
      atOnce: edit.atOnce === undefined ? reach.atOnce : edit.atOnce,
    },
    selection: {
      include: edit.include ?? selection.include,
      exclude: edit.exclude ?? selection.exclude,
      without: edit.without ?? selection.without,
      add: edit.add?.map(page) ?? selection.add,
      drop: edit.drop?.map(page) ?? selection.drop,
      most: edit.most === undefined ? selection.most : edit.most,
      dates: edit.dates ?? selection.dates,
      extensions: edit.extensions ?? selection.extensions,
      weighing: edit.weighing ?? selection.weighing,
      gzip: edit.gzip ?? selection.gzip,
      feed: edit.feed === undefined ? selection.feed : edit.feed,
    },
  };
}

function fileAddress(property: PropertyRow, text: string): string {
  const entry = readSitemapEntry(frontDoorOf(property), text);
  if (entry.kind === 'refused') throw new Problem('bad-address', { says: entry.says });
  return entry.url;
}
