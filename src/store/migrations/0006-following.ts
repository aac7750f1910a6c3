/** Sitemaps followed over time: what each reading held, the sitemaps of an index, since when counts are apart; work that waits for a day. */
export const following = {
  name: '0006-following',
  up: [
    `ALTER TABLE readings ADD COLUMN fingerprint TEXT`,
    `ALTER TABLE readings ADD COLUMN before INTEGER`,
    `ALTER TABLE readings ADD COLUMN extensions TEXT`,
    `ALTER TABLE readings ADD COLUMN tried INTEGER NOT NULL DEFAULT 0`,
    `CREATE TABLE reading_sets (readingId TEXT PRIMARY KEY REFERENCES readings(id), chunks BLOB NOT NULL)`,
    `CREATE TABLE address_chunks (sitemapId TEXT NOT NULL REFERENCES sitemaps(id), name TEXT NOT NULL, packed BLOB NOT NULL,
       PRIMARY KEY (sitemapId, name))`,
    `CREATE TABLE reading_children (sitemapId TEXT NOT NULL REFERENCES sitemaps(id), seq INTEGER NOT NULL, url TEXT NOT NULL, kind TEXT,
       addresses INTEGER NOT NULL, before INTEGER, newestLastmod TEXT, state TEXT NOT NULL, says TEXT, PRIMARY KEY (sitemapId, seq))`,
    `ALTER TABLE submissions ADD COLUMN apartSince TEXT`,
    `ALTER TABLE engine_readings ADD COLUMN ours INTEGER`,
    `ALTER TABLE job_items ADD COLUMN dueAt TEXT`,
    `CREATE INDEX job_items_due ON job_items (state, dueAt)`,
  ],
};
