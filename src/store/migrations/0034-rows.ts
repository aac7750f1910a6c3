/**
 * How many pages in a row may have nothing of their own is a bound of its own, and may be lifted. Pages that could not be read stay as they
 * were at the gathering before: what was met in their place, and whether that was that there is none.
 */
export const rows = {
  name: '0034-rows',
  up: [
    ...['recipes', 'makings'].map(
      (table) =>
        `UPDATE ${table} SET recipe = json_set(recipe, '$.reach.row', 60) WHERE json_extract(recipe, '$.reach.row') IS NULL`,
    ),
    'ALTER TABLE made_pages ADD COLUMN kept TEXT',
    'ALTER TABLE made_pages ADD COLUMN gone INTEGER NOT NULL DEFAULT 0',
  ],
};
