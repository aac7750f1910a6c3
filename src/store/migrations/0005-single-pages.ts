/** Single pages: what was asked of which engine, so that the day's ration can be counted. */
export const singlePages = {
  name: '0005-single-pages',
  up: [
    `CREATE TABLE page_asks (id TEXT PRIMARY KEY, enrolmentId TEXT NOT NULL REFERENCES enrolments(id), accountId TEXT NOT NULL REFERENCES accounts(id),
       kind TEXT NOT NULL CHECK (kind IN ('lookup','visit')), address TEXT NOT NULL, at TEXT NOT NULL, listed INTEGER, visitedAt TEXT, says TEXT)`,
    `CREATE INDEX page_asks_ration ON page_asks (accountId, kind, at)`,
    `CREATE INDEX page_asks_address ON page_asks (address, at)`,
  ],
};
