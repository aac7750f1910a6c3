import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { SubmissionRow } from '../../store/models/sitemaps.js';
import type { Actor, Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { findSitemap } from '../context/references.js';

/** What there is of a sitemap, those rows first that name others. */
const ROWS = [
  'DELETE FROM engine_readings WHERE submissionId IN (SELECT id FROM submissions WHERE sitemapId = $id)',
  'DELETE FROM submissions WHERE sitemapId = $id',
  'DELETE FROM reading_sets WHERE readingId IN (SELECT id FROM readings WHERE sitemapId = $id)',
  'DELETE FROM readings WHERE sitemapId = $id',
  'DELETE FROM address_chunks WHERE sitemapId = $id',
  'DELETE FROM reading_children WHERE sitemapId = $id',
  'DELETE FROM insides WHERE sitemapId = $id',
  'DELETE FROM sitemap_rows WHERE sitemapId = $id',
  'DELETE FROM sitemaps WHERE id = $id',
];

/** Takes out a sitemap that was noted by mistake, with our readings of it. Throws Problem for one that an engine knows. */
export async function dropSitemap(desk: Desk, actor: Actor, ref: string): Promise<void> {
  const sitemap = await findSitemap(ref);
  const known = await SubmissionRow.count({ where: { sitemapId: sitemap.id, withdrawnAt: null } });
  if (known > 0) throw new Problem('sitemap-known', { sitemap: sitemap.url });
  const property = await PropertyRow.findByPk(sitemap.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    for (const statement of ROWS) await desk.store.run(statement, { id: sitemap.id }, transaction);
    await note(desk, actor, transaction, {
      kind: 'sitemap.dropped',
      says: `The sitemap ${sitemap.url} was taken out: it had been noted by mistake.`,
      property,
    });
  });
}
