import type { MadeVersion } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { MadeVersionRow } from '../../store/models/making.js';
import type { Actor, Desk } from '../context/desk.js';
import { note, personNames } from '../context/journal.js';
import { EXACT, findProperty } from '../context/references.js';
import { addSitemap } from '../sitemaps/noting.js';
import { writeVersion } from './files.js';
import { placeOf } from '../context/sitemap-place.js';
import { recipeOf } from './recipes.js';
import { viewVersion } from './view.js';

/** Writes what was gathered and chosen now, and notes the sitemap where it is to stand. Throws Problem. */
export async function writeNow(
  desk: Desk,
  actor: Actor,
  ref: string,
  isAllowed: boolean,
): Promise<MadeVersion> {
  const property = await findProperty(ref, EXACT);
  const row = await writeVersion(desk, actor, property, { id: newId(), isAllowed });
  const { selection } = (await recipeOf(desk, property)).recipe;
  await addSitemap(desk, actor, { property: property.handle, address: placeOf(property, selection) });
  return viewVersion(row, await personNames([row.personId]));
}

/** Lets a version go out that was held back. Throws Problem. */
export async function allowVersion(desk: Desk, actor: Actor, id: string): Promise<MadeVersion> {
  const row = await MadeVersionRow.findByPk(id);
  if (!row) throw new Problem('no-such-version', { ref: id });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  if (row.heldBack != null)
    await desk.store.write(async (transaction) => {
      await row.update({ heldBack: null }, { transaction });
      await note(desk, actor, transaction, {
        kind: 'sitemap.allowed',
        says: `The sitemap of ${property.handle} with ${String(row.addresses)} addresses may go out although it fell.`,
        property,
      });
    });
  return viewVersion(row, await personNames([row.personId]));
}
