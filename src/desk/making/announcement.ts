import { SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { MadeVersionRow } from '../../store/models/making.js';
import type { Desk } from '../context/desk.js';
import type { Piece } from '../jobs/work.js';
import { submitOnce } from '../sitemaps/submitting.js';
import { placeOf } from '../context/sitemap-place.js';
import { recipeOf } from './recipes.js';

/** Tells the engines that know a sitemap that it has changed, by their rules. @returns what came of it, in words */
export async function announce(
  desk: Desk,
  piece: Piece,
  property: PropertyRow,
  { came, went }: Pick<MadeVersionRow, 'came' | 'went'>,
): Promise<string> {
  if (came === 0 && went === 0) return 'Nothing has changed, so nobody was told.';
  const { selection } = (await recipeOf(desk, property)).recipe;
  const sitemap = await SitemapRow.findOne({
    where: { propertyId: property.id, url: placeOf(property, selection) },
  });
  if (!sitemap) return '';
  const known = await SubmissionRow.findAll({ where: { sitemapId: sitemap.id, withdrawnAt: null } });
  const said: string[] = [];
  for (const { enrolmentId } of known) {
    const { says } = await submitOnce(desk, { ...piece, input: { sitemapId: sitemap.id, enrolmentId } });
    said.push(says);
  }
  return said.join(' ');
}
