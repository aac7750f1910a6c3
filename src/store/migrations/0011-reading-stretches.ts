/** Readings that say the same are one row with a first and a last time, ours and the engines'. */
export const readingStretches = {
  name: '0011-reading-stretches',
  up: ['readings', 'engine_readings'].flatMap((table) => [
    `ALTER TABLE ${table} ADD COLUMN firstAt TEXT`,
    `ALTER TABLE ${table} ADD COLUMN times INTEGER NOT NULL DEFAULT 1`,
    `UPDATE ${table} SET firstAt = at`,
  ]),
};
