/**
 * History that can grow for years: looks that say the same are one row with a first and a last time; evidence lies apart from
 * what lists read, packed, for the first and the newest look of each such stretch.
 */
export const stretches = {
  name: '0010-stretches',
  up: [
    `ALTER TABLE checks ADD COLUMN firstAt TEXT`,
    `ALTER TABLE checks ADD COLUMN times INTEGER NOT NULL DEFAULT 1`,
    // Evidence of before is kept as the text that it was; what comes is packed (RFC 1951).
    `CREATE TABLE evidence (checkId TEXT NOT NULL REFERENCES checks(id) ON DELETE CASCADE,
       which TEXT NOT NULL CHECK (which IN ('first','newest')), at TEXT NOT NULL, packed BLOB NOT NULL, PRIMARY KEY (checkId, which))`,
    `INSERT INTO evidence (checkId, which, at, packed) SELECT id, 'first', checkedAt, evidence FROM checks`,
    `UPDATE checks SET firstAt = checkedAt, evidence = '{}'`,
    `CREATE INDEX checks_age ON checks (checkedAt)`,
    `CREATE INDEX evidence_age ON evidence (at)`,
    `CREATE INDEX jobs_age ON jobs (finishedAt) WHERE finishedAt IS NOT NULL`,
  ],
};
