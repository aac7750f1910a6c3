import { PropertyRow } from '../../store/models/clients.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { findSitemap } from '../context/references.js';
import type { NewPiece } from '../jobs/work.js';
import type { ReadInput } from './reading.js';

/** Notes that the lower count of a sitemap is right, and has it read once more, so that nobody is told of a fall any longer. */
export async function acceptFallPieces(
  desk: Desk,
  actor: Actor,
  ref: string,
): Promise<NewPiece<ReadInput>[]> {
  const sitemap = await findSitemap(ref);
  const property = await PropertyRow.findByPk(sitemap.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    await SitemapRow.update({ fallAcceptedAt: nowText(desk) }, { where: { id: sitemap.id }, transaction });
    await note(desk, actor, transaction, {
      kind: 'sitemap.fall-accepted',
      says: `The lower count of ${sitemap.url} is right.`,
      property,
    });
  });
  return [
    {
      subject: sitemap.url,
      input: { sitemapId: sitemap.id },
      host: new URL(sitemap.url).hostname,
    },
  ];
}
