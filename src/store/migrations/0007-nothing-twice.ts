/** Who holds the records, requests that name the job they began, asks that are written down before they are sent, keys bound to where they go. */
export const nothingTwice = {
  name: '0007-nothing-twice',
  up: [
    // What was kept before held bodies' plain hashes, and for ever.
    `DELETE FROM replays`,
    `ALTER TABLE replays ADD COLUMN jobId TEXT REFERENCES jobs(id)`,
    `CREATE INDEX replays_age ON replays (createdAt)`,
    `CREATE TABLE lease (id INTEGER PRIMARY KEY CHECK (id = 1), holder TEXT NOT NULL, host TEXT NOT NULL, pid INTEGER NOT NULL, beatAt INTEGER NOT NULL)`,
    `ALTER TABLE page_asks ADD COLUMN answeredAt TEXT`,
    `UPDATE page_asks SET answeredAt = at`,
    `CREATE TABLE key_bases (variable TEXT PRIMARY KEY, origin TEXT NOT NULL, since TEXT NOT NULL)`,
    `ALTER TABLE keys ADD COLUMN agent TEXT`,
    `ALTER TABLE keys ADD COLUMN usedAt TEXT`,
    `CREATE INDEX keys_person ON keys (personId, endedAt)`,
    `CREATE INDEX jobs_newest ON jobs (createdAt, id)`,
    `CREATE INDEX checks_history ON checks (enrolmentId, checkedAt, id)`,
  ],
};
