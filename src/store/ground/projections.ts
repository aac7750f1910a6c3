/** Where things stand, kept ready to be read: a projection of the facts, never a truth. */
export const keptReady: readonly string[] = [
  `CREATE TABLE stale (propertyId TEXT PRIMARY KEY, mark INTEGER NOT NULL) WITHOUT ROWID`,
  `CREATE TABLE derived_by (id INTEGER PRIMARY KEY CHECK (id = 1), ground TEXT NOT NULL)`,
  `CREATE TABLE standings (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, handle TEXT NOT NULL, engine TEXT
     NOT NULL, enrolmentId TEXT, badge TEXT, kind TEXT NOT NULL, harm INTEGER NOT NULL, acts TEXT NOT NULL, since TEXT NOT NULL,
     until TEXT, says TEXT NOT NULL, turnsAt TEXT, personId TEXT, putOff TEXT)`,
  `CREATE INDEX standings_property ON standings (propertyId)`,
  `CREATE INDEX standings_badge ON standings (badge, clientId, engine)`,
  `CREATE INDEX standings_turn ON standings (turnsAt) WHERE turnsAt IS NOT NULL`,
  `CREATE INDEX standings_kind ON standings (kind, engine, clientId, since, handle, putOff, personId)`,
  `CREATE TABLE entries (place TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, kind TEXT NOT NULL, acts TEXT
     NOT NULL, engines TEXT NOT NULL, badges TEXT NOT NULL, words TEXT NOT NULL, document TEXT NOT NULL, personId TEXT NOT NULL
     DEFAULT '')`,
  `CREATE INDEX entries_property ON entries (propertyId)`,
  `CREATE INDEX entries_person ON entries (personId, place) WHERE personId <> ''`,
  `CREATE INDEX entries_filter ON entries (place, kind, clientId, acts, engines, badges, personId)`,
  `CREATE INDEX entries_count ON entries (kind, clientId, acts, engines, badges, personId)`,
  `CREATE TABLE yard_rows (propertyId TEXT PRIMARY KEY, clientId TEXT NOT NULL, handle TEXT NOT NULL, words TEXT NOT NULL, badges
     TEXT NOT NULL, kinds TEXT NOT NULL, document TEXT NOT NULL, turnsAt TEXT, done INTEGER NOT NULL DEFAULT 0, stages INTEGER
     NOT NULL DEFAULT 0)`,
  `CREATE INDEX yard_rows_turn ON yard_rows (turnsAt) WHERE turnsAt IS NOT NULL`,
  `CREATE INDEX yard_rows_progress ON yard_rows (clientId, done, stages)`,
  `CREATE INDEX yard_rows_filter ON yard_rows (handle, clientId, words, badges, kinds, done, stages)`,
  `CREATE TABLE sitemap_rows (sitemapId TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, byProperty TEXT NOT
     NULL, byGap TEXT NOT NULL, byAge TEXT NOT NULL, byFall TEXT NOT NULL, work TEXT NOT NULL, state TEXT NOT NULL, counts TEXT
     NOT NULL, words TEXT NOT NULL, document TEXT NOT NULL)`,
  `CREATE INDEX sitemap_rows_property ON sitemap_rows (propertyId)`,
  `CREATE INDEX sitemap_rows_byProperty ON sitemap_rows (byProperty, work, state, clientId, counts, words)`,
  `CREATE INDEX sitemap_rows_byGap ON sitemap_rows (byGap, work, state, clientId, counts, words)`,
  `CREATE INDEX sitemap_rows_byAge ON sitemap_rows (byAge, work, state, clientId, counts, words)`,
  `CREATE INDEX sitemap_rows_byFall ON sitemap_rows (byFall, work, state, clientId, counts, words)`,
  `CREATE TABLE watched (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, handle TEXT NOT NULL, what TEXT NOT
     NULL, subject TEXT NOT NULL, input TEXT NOT NULL, host TEXT NOT NULL, engine TEXT, every INTEGER NOT NULL, lookedAt TEXT,
     why TEXT NOT NULL, urgency INTEGER NOT NULL, dueAt TEXT NOT NULL)`,
  `CREATE INDEX watched_property ON watched (propertyId)`,
  `CREATE INDEX watched_due ON watched (dueAt, id, propertyId, clientId)`,
];
