/** Links by which a sheet is seen without signing in, and what those said who used them. */
export const shared = {
  name: '0022-shared',
  up: [
    `CREATE TABLE shared_links (id TEXT PRIMARY KEY, hash TEXT NOT NULL UNIQUE, clientId TEXT NOT NULL, propertyId TEXT, word TEXT, language TEXT NOT NULL,
       tells INTEGER NOT NULL, createdAt TEXT NOT NULL, personId TEXT, expiresAt TEXT NOT NULL, endedAt TEXT, how TEXT, opened INTEGER NOT NULL, openedAt TEXT)`,
    `CREATE INDEX shared_links_client ON shared_links (clientId, createdAt)`,
    `CREATE INDEX shared_links_open ON shared_links (expiresAt) WHERE endedAt IS NULL`,
    `CREATE TABLE shared_uses (id TEXT PRIMARY KEY, linkId TEXT NOT NULL, at TEXT NOT NULL, kind TEXT NOT NULL, says TEXT)`,
    `CREATE INDEX shared_uses_link ON shared_uses (linkId, at)`,
  ],
};
