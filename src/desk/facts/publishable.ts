import type { Method } from '../../core/profile/profile.js';
import type { Desk } from '../context/desk.js';
import { ADDRESSES } from '../../core/sitemap/make/write.js';

/** What of a property can be carried from here, since its places are on record. */
export interface Publishable {
  /** Methods of proof whose tokens have a place. */
  readonly methods: readonly Method[];
  /** Since when a made sitemap waits to be carried; null where none does. */
  readonly sitemapSince: Date | null;
}

const NOTHING: Publishable = { methods: [], sitemapSince: null };

/** What can be carried of each property, by two queries for all of them. */
export async function publishable(
  { store }: Desk,
  propertyIds: readonly string[],
): Promise<(propertyId: string) => Publishable> {
  const ids = JSON.stringify(propertyIds);
  const [places, waiting] = await Promise.all([
    store.select<{ propertyId: string; method: Method }>(
      `SELECT DISTINCT propertyId, CASE way WHEN 'dns' THEN 'dns' ELSE 'file' END AS method FROM carry_places
        WHERE propertyId IN (SELECT value FROM json_each($ids)) AND endedAt IS NULL ORDER BY method`,
      { ids },
    ),
    // A file stands there for as long as it was carried with the same sum, packed or not.
    store.select<{ propertyId: string; at: string }>(
      `SELECT v.propertyId, v.at FROM carry_places p JOIN made_versions v ON v.id =
         (SELECT n.id FROM made_versions n WHERE n.propertyId = p.propertyId AND n.heldBack IS NULL ORDER BY n.at DESC LIMIT 1)
        WHERE p.propertyId IN (SELECT value FROM json_each($ids)) AND p.endedAt IS NULL AND p.way <> 'dns'
          AND EXISTS (SELECT 1 FROM json_each(v.files) f WHERE f.value->>'name' <> $addresses AND NOT EXISTS
            (SELECT 1 FROM carried c WHERE c.placeId = p.id AND c.removedAt IS NULL
                AND c.sum IN (f.value->>'sum', 'gz ' || (f.value->>'sum')) AND c.name LIKE '%/' || (f.value->>'name')))`,
      { ids, addresses: ADDRESSES },
    ),
  ]);
  const of = new Map<string, Publishable>();
  for (const { propertyId, method } of places) {
    const known = of.get(propertyId) ?? NOTHING;
    of.set(propertyId, { ...known, methods: [...known.methods, method] });
  }
  for (const { propertyId, at } of waiting)
    of.set(propertyId, { ...(of.get(propertyId) ?? NOTHING), sitemapSince: new Date(at) });
  return (id) => of.get(id) ?? NOTHING;
}
