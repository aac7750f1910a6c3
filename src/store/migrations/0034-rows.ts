/** How many pages in a row may have nothing of their own is a bound of its own, and may be lifted. */
export const rows = {
  name: '0034-rows',
  up: ['recipes', 'makings'].map(
    (table) =>
      `UPDATE ${table} SET recipe = json_set(recipe, '$.reach.row', 60) WHERE json_extract(recipe, '$.reach.row') IS NULL`,
  ),
};
