import type { HandOut } from '../../api/documents.js';
import { redirectVerdicts, ruleFor } from '../../core/sitemap/make/hand-out.js';
import { MadeVersionRow, RecipeRow } from '../../store/models/making.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { Problem } from '../../api/problems.js';
import type { Desk } from '../context/desk.js';
import { findProperty } from '../context/references.js';
import { fileOf, latestVersion } from './files.js';
import { ADDRESSES } from '../../core/sitemap/make/write.js';
import { placeOf } from '../context/sitemap-place.js';
import { recipeOf } from './recipes.js';

/** The path at this service under which a made sitemap is handed out; null where it is not. */
export function handedOutAt({ handle, recipe }: Pick<RecipeRow, 'handle' | 'recipe'>): string | null {
  if (handle == null) return null;
  return `/made/${handle}/${recipe.selection.gzip ? 'sitemap.xml.gz' : 'sitemap.xml'}`;
}

/** One file as it is handed out, to whoever knows the word. @returns null where there is none */
export async function handOut(
  handle: string,
  name: string,
): Promise<{ bytes: Buffer; at: string; sum: string } | null> {
  const recipe = await RecipeRow.findOne({ where: { handle } });
  const property = recipe && (await PropertyRow.findByPk(recipe.propertyId));
  if (!property || property.archivedAt != null) return null;
  const version = await latestVersion(property.id);
  return version && fileIn(version, name);
}

/** One file of a version. @returns null where it has none of that name */
export async function fileIn(
  version: MadeVersionRow,
  name: string,
): Promise<{ bytes: Buffer; at: string; sum: string } | null> {
  const file = name === ADDRESSES ? undefined : version.files.find((one) => one.name === name);
  if (!file) return null;
  const { text, packed } = await fileOf(file.sum);
  return { bytes: name.endsWith('.gz') ? packed : text, at: version.at, sum: file.sum };
}

/** One file of a version by its identifier. Throws Problem. */
export async function versionFile(
  id: string,
  name: string,
): Promise<{ bytes: Buffer; at: string; sum: string }> {
  const version = await MadeVersionRow.findByPk(id);
  const file = version && (await fileIn(version, name));
  if (!file) throw new Problem('no-such-file', { name, version: id });
  return file;
}

/**
 * How a website hands on a sitemap that stands here: the rules for its server, and which engines would go along with each.
 * @param base the address of this service, as the outside sees it
 */
export async function showHandOut(desk: Desk, ref: string, base: string): Promise<HandOut> {
  const property = await findProperty(ref);
  const recipe = await recipeOf(desk, property);
  const path = handedOutAt(recipe);
  if (path === null) throw new Problem('not-handed-out', { property: property.handle });
  const from = placeOf(property, recipe.recipe.selection);
  const to = new URL(path, base).href;
  const enrolments = await EnrolmentRow.findAll({ where: { propertyId: property.id, endedAt: null } });
  const engines = new Set(enrolments.map(({ engine }) => engine));
  const profiles = [...desk.book.profiles.values()].filter(
    ({ id, worked }) => engines.has(id) && worked.how !== 'house',
  );
  return {
    from,
    to,
    rules: ruleFor(from, to),
    engines: redirectVerdicts(profiles, new URL(from), new URL(to)),
  };
}
