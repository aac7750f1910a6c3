import type { NewSitemap } from '../../api/documents.js';
import { readSitemapEntry } from '../../core/sitemap/entry.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { note } from '../context/journal.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { frontDoorOf } from '../context/front-door.js';
import { findProperty, EXACT } from '../context/references.js';
import { viewSitemap } from './view.js';

/** Notes a sitemap of a property, from a path or an address. One that is there already is shown as it is. */
export async function addSitemap(
  desk: Desk,
  actor: Actor,
  input: { property: string; address: string },
): Promise<NewSitemap> {
  const property = await findProperty(input.property, EXACT);
  const entry = readSitemapEntry(frontDoorOf(property), input.address);
  if (entry.kind === 'refused') throw new Problem('bad-address', { says: entry.says });
  const { url } = entry;
  const { id, isNew } = await desk.store.write(async (transaction) => {
    const [row, isNew] = await SitemapRow.findOrCreate({
      where: { propertyId: property.id, url },
      defaults: { id: newId(), propertyId: property.id, url, createdAt: nowText(desk) },
      transaction,
    });
    if (isNew)
      await note(desk, actor, transaction, {
        kind: 'sitemap.added',
        says: `Sitemap ${url} was noted.`,
        property,
        details: { sitemap: row.id },
      });
    return { id: row.id, isNew };
  });
  return { ...(await viewSitemap(desk, property, id)), note: entry.note, isNew };
}
