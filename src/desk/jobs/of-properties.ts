import { PropertyRow } from '../../store/models/clients.js';
import type { JobItemRow } from '../../store/models/jobs.js';
import type { Store } from '../../store/store.js';

/** The kind of work that is done with what is in the archive, and with nothing else. */
export const DELETION = 'delete-client';

/** SQL: whether a piece `i` is about one of the properties `:ids`, by what its input names. */
const ABOUT = `(i.input->>'propertyId' IN (SELECT value FROM json_each($ids))
  OR i.input->>'enrolmentId' IN (SELECT id FROM enrolments WHERE propertyId IN (SELECT value FROM json_each($ids)))
  OR i.input->>'sitemapId' IN (SELECT id FROM sitemaps WHERE propertyId IN (SELECT value FROM json_each($ids)))
  OR i.input->>'placeId' IN (SELECT id FROM carry_places WHERE propertyId IN (SELECT value FROM json_each($ids))))`;

/** The pieces under way that are about some properties; their deletion is none of them. */
export async function underWayAbout(store: Store, ids: readonly string[]): Promise<string[]> {
  const rows = await store.select<{ id: string }>(
    `SELECT i.id FROM job_items i JOIN jobs j ON j.id = i.jobId WHERE i.state = 'running' AND j.kind <> '${DELETION}' AND ${ABOUT}`,
    { ids: JSON.stringify(ids) },
  );
  return rows.map(({ id }) => id);
}

/** The property that a piece is about, where that is in the archive; null for all else. */
export async function putAwayOf(store: Store, { input }: JobItemRow): Promise<PropertyRow | null> {
  const named = input as Readonly<Record<string, unknown>>;
  const [found] = await store.select<{ id: string }>(
    `SELECT p.id FROM properties p WHERE p.archivedAt IS NOT NULL AND p.id = coalesce($propertyId,
       (SELECT propertyId FROM enrolments WHERE id = $enrolmentId), (SELECT propertyId FROM sitemaps WHERE id = $sitemapId),
       (SELECT propertyId FROM carry_places WHERE id = $placeId))`,
    Object.fromEntries(
      ['propertyId', 'enrolmentId', 'sitemapId', 'placeId'].map((key) => [
        key,
        typeof named[key] === 'string' ? named[key] : null,
      ]),
    ),
  );
  return found ? PropertyRow.findByPk(found.id) : null;
}
