/** A website is gone through as fast as it bears, up to a bound that may be set for each property; how fast that is, is told. */
export const pace = {
  name: '0035-pace',
  up: [
    ...['recipes', 'makings'].map(
      (table) => `UPDATE ${table} SET recipe = json_set(recipe, '$.reach.atOnce', NULL)`,
    ),
    'ALTER TABLE makings ADD COLUMN atOnce INTEGER NOT NULL DEFAULT 2',
    'ALTER TABLE makings ADD COLUMN delay REAL',
  ],
};
