/** Sitemaps: read, handed in, made, looked into; and where things are put. */
export const sitemaps: readonly string[] = [
  `CREATE TABLE sitemaps (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), url TEXT NOT NULL, createdAt
     TEXT NOT NULL, fallAcceptedAt TEXT, UNIQUE (propertyId, url))`,
  `CREATE TABLE readings (id TEXT PRIMARY KEY, sitemapId TEXT NOT NULL REFERENCES sitemaps(id), at TEXT NOT NULL, kind TEXT,
     addresses INTEGER NOT NULL, children INTEGER NOT NULL, newestLastmod TEXT, findings TEXT NOT NULL, fingerprint TEXT, before
     INTEGER, extensions TEXT, tried INTEGER NOT NULL DEFAULT 0, firstAt TEXT, times INTEGER NOT NULL DEFAULT 1)`,
  `CREATE INDEX readings_newest ON readings (sitemapId, at)`,
  `CREATE TABLE reading_sets (readingId TEXT PRIMARY KEY REFERENCES readings(id), chunks BLOB NOT NULL)`,
  `CREATE TABLE address_chunks (sitemapId TEXT NOT NULL REFERENCES sitemaps(id), name TEXT NOT NULL, packed BLOB NOT NULL, PRIMARY
     KEY (sitemapId, name))`,
  `CREATE TABLE reading_children (sitemapId TEXT NOT NULL REFERENCES sitemaps(id), seq INTEGER NOT NULL, url TEXT NOT NULL, kind
     TEXT, addresses INTEGER NOT NULL, before INTEGER, newestLastmod TEXT, state TEXT NOT NULL, says TEXT, PRIMARY KEY
     (sitemapId, seq))`,
  `CREATE TABLE submissions (id TEXT PRIMARY KEY, sitemapId TEXT NOT NULL REFERENCES sitemaps(id), enrolmentId TEXT NOT NULL
     REFERENCES enrolments(id), sentAs TEXT NOT NULL, ref TEXT NOT NULL, submittedAt TEXT NOT NULL, withdrawnAt TEXT, apartSince
     TEXT, askedAt TEXT)`,
  `CREATE UNIQUE INDEX submissions_once ON submissions (sitemapId, enrolmentId) WHERE withdrawnAt IS NULL`,
  `CREATE INDEX submissions_enrolment ON submissions (enrolmentId)`,
  `CREATE TABLE engine_readings (id TEXT PRIMARY KEY, submissionId TEXT NOT NULL REFERENCES submissions(id), at TEXT NOT NULL,
     readAt TEXT, found INTEGER, listed INTEGER, trouble TEXT, recordedBy TEXT REFERENCES persons(id), ours INTEGER, firstAt
     TEXT, times INTEGER NOT NULL DEFAULT 1)`,
  `CREATE INDEX engine_readings_newest ON engine_readings (submissionId, at)`,
  `CREATE TABLE insides (sitemapId TEXT PRIMARY KEY, id TEXT NOT NULL, at TEXT NOT NULL, usedAt TEXT NOT NULL, kind TEXT, entries
     INTEGER NOT NULL, files INTEGER NOT NULL, isCut INTEGER NOT NULL)`,
  `CREATE TABLE recipes (propertyId TEXT PRIMARY KEY, recipe TEXT NOT NULL, every TEXT, mostFall INTEGER NOT NULL, nextAt TEXT,
     handle TEXT, updatedAt TEXT NOT NULL, afterChange TEXT)`,
  `CREATE INDEX recipes_due ON recipes (nextAt) WHERE nextAt IS NOT NULL`,
  `CREATE UNIQUE INDEX recipes_handle ON recipes (handle) WHERE handle IS NOT NULL`,
  `CREATE TABLE makings (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, recipe TEXT NOT NULL, startedAt TEXT NOT NULL, endedAt
     TEXT, ended TEXT, phase INTEGER NOT NULL, ms INTEGER NOT NULL, bytes INTEGER NOT NULL, named TEXT NOT NULL, personId TEXT,
     atOnce INTEGER NOT NULL DEFAULT 2, delay REAL)`,
  `CREATE INDEX makings_property ON makings (propertyId, startedAt)`,
  `CREATE TABLE made_pages (makingId TEXT NOT NULL, seq INTEGER NOT NULL, url TEXT NOT NULL, state TEXT NOT NULL CHECK (state IN
     ('waiting','in','out')), why TEXT, detail TEXT, depth INTEGER NOT NULL, run INTEGER NOT NULL, foundBy TEXT NOT NULL,
     fromUrl TEXT, kind TEXT, folder TEXT, title TEXT, modified TEXT, header TEXT, seenAt TEXT, face TEXT, more TEXT, kept TEXT,
     gone INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (makingId, seq)) WITHOUT ROWID`,
  `CREATE UNIQUE INDEX made_pages_url ON made_pages (makingId, url)`,
  `CREATE INDEX made_pages_next ON made_pages (makingId, depth, seq) WHERE state = 'waiting'`,
  `CREATE INDEX made_pages_state ON made_pages (makingId, state, why)`,
  `CREATE TABLE made_versions (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, makingId TEXT NOT NULL, at TEXT NOT NULL, addresses
     INTEGER NOT NULL, came INTEGER, went INTEGER, heldBack TEXT, findings TEXT NOT NULL, files TEXT NOT NULL, personId TEXT)`,
  `CREATE INDEX made_versions_property ON made_versions (propertyId, at)`,
  `CREATE TABLE made_files (sum TEXT PRIMARY KEY, packed BLOB NOT NULL)`,
  `CREATE TABLE carry_places (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, way TEXT NOT NULL, at TEXT NOT NULL, secret TEXT, pin
     TEXT, pinnedAt TEXT, role TEXT NOT NULL, watchMay INTEGER NOT NULL, createdAt TEXT NOT NULL, personId TEXT, endedAt TEXT)`,
  `CREATE INDEX carry_places_property ON carry_places (propertyId) WHERE endedAt IS NULL`,
  `CREATE TABLE carried (id TEXT PRIMARY KEY, placeId TEXT NOT NULL, name TEXT NOT NULL, sum TEXT NOT NULL, at TEXT NOT NULL,
     personId TEXT, removedAt TEXT)`,
  `CREATE INDEX carried_now ON carried (placeId, name) WHERE removedAt IS NULL`,
  `CREATE TABLE robots_kept (propertyId TEXT PRIMARY KEY, text TEXT NOT NULL, sum TEXT NOT NULL, over TEXT, at TEXT NOT NULL,
     personId TEXT)`,
];
