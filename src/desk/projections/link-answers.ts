import type { Desk } from '../context/desk.js';

/** When something was heard last of properties by links that still work: opened, or said to be done. One query for all of them. */
export async function linkAnswers(
  { store }: Desk,
  propertyIds: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const rows = await store.select<{ propertyId: string; at: string | null }>(
    `SELECT p.id AS propertyId, MAX(COALESCE((SELECT MAX(u.at) FROM shared_uses u WHERE u.linkId = l.id), ''), COALESCE(l.openedAt, ''))
        AS at
       FROM json_each($ids) wanted JOIN properties p ON p.id = wanted.value
       JOIN shared_links l ON l.clientId = p.clientId AND l.endedAt IS NULL AND (l.propertyId IS NULL OR l.propertyId = p.id)`,
    { ids: JSON.stringify(propertyIds) },
  );
  const heard = new Map<string, string>();
  for (const { propertyId, at } of rows)
    if (at !== null && at > (heard.get(propertyId) ?? '')) heard.set(propertyId, at);
  return heard;
}
