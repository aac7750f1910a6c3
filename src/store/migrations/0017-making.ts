/** How sitemaps are made: the recipe of each property, what a gathering met, and the versions that were written. */
export const making = {
  name: '0017-making',
  up: [
    `CREATE TABLE recipes (propertyId TEXT PRIMARY KEY, recipe TEXT NOT NULL, every TEXT, mostFall INTEGER NOT NULL, nextAt TEXT,
       handle TEXT, updatedAt TEXT NOT NULL)`,
    `CREATE INDEX recipes_due ON recipes (nextAt) WHERE nextAt IS NOT NULL`,
    `CREATE UNIQUE INDEX recipes_handle ON recipes (handle) WHERE handle IS NOT NULL`,
    `CREATE TABLE makings (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, recipe TEXT NOT NULL, startedAt TEXT NOT NULL, endedAt TEXT, ended TEXT,
       phase INTEGER NOT NULL, ms INTEGER NOT NULL, bytes INTEGER NOT NULL, named TEXT NOT NULL, personId TEXT)`,
    `CREATE INDEX makings_property ON makings (propertyId, startedAt)`,
    `CREATE TABLE made_pages (makingId TEXT NOT NULL, seq INTEGER NOT NULL, url TEXT NOT NULL, state TEXT NOT NULL CHECK (state IN ('waiting','in','out')),
       why TEXT, detail TEXT, depth INTEGER NOT NULL, run INTEGER NOT NULL, foundBy TEXT NOT NULL, fromUrl TEXT, kind TEXT, folder TEXT, title TEXT,
       modified TEXT, header TEXT, seenAt TEXT, face TEXT, more TEXT, PRIMARY KEY (makingId, seq)) WITHOUT ROWID`,
    `CREATE UNIQUE INDEX made_pages_url ON made_pages (makingId, url)`,
    `CREATE INDEX made_pages_next ON made_pages (makingId, depth, seq) WHERE state = 'waiting'`,
    `CREATE INDEX made_pages_state ON made_pages (makingId, state, why)`,
    `CREATE TABLE made_versions (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, makingId TEXT NOT NULL, at TEXT NOT NULL, addresses INTEGER NOT NULL,
       came INTEGER, went INTEGER, heldBack TEXT, findings TEXT NOT NULL, files TEXT NOT NULL, personId TEXT)`,
    `CREATE INDEX made_versions_property ON made_versions (propertyId, at)`,
    `CREATE TABLE made_files (sum TEXT PRIMARY KEY, packed BLOB NOT NULL)`,
  ],
};
