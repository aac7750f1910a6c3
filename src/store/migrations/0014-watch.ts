/** Marks again even what is marked, as the triggers of 0008 do. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

/** The watch: what is looked at by itself, and when; what speaks against looking; what a look that failed does not say. */
export const watch = {
  name: '0014-watch',
  up: [
    // What looks told of a token, apart from those that failed.
    `ALTER TABLE checks ADD COLUMN told TEXT CHECK (told IN ('seen','gone'))`,
    `ALTER TABLE checks ADD COLUMN toldSince TEXT`,
    `UPDATE checks SET told = iif(seen, 'seen', 'gone'), toldSince = seenSince`,
    // How often a property is looked at, where it is not as usual.
    `ALTER TABLE properties ADD COLUMN rhythms TEXT NOT NULL DEFAULT '{}'`,
    // Kept ready like the rest: what is watched, and when it is due.
    `CREATE TABLE watched (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, handle TEXT NOT NULL, what TEXT NOT NULL,
       subject TEXT NOT NULL, input TEXT NOT NULL, host TEXT NOT NULL, engine TEXT, every INTEGER NOT NULL, lookedAt TEXT, why TEXT NOT NULL,
       urgency INTEGER NOT NULL, dueAt TEXT NOT NULL)`,
    `CREATE INDEX watched_property ON watched (propertyId)`,
    `CREATE INDEX watched_due ON watched (dueAt, id, propertyId, clientId)`,
    `CREATE TABLE pauses (id TEXT PRIMARY KEY, propertyId TEXT, clientId TEXT, why TEXT NOT NULL, since TEXT NOT NULL, until TEXT,
       personId TEXT, endedAt TEXT)`,
    `CREATE INDEX pauses_open ON pauses (endedAt, propertyId, clientId)`,
    // Looks that came to nothing are not taken again at once, for ever.
    `CREATE TABLE watch_tries (id TEXT PRIMARY KEY, fails INTEGER NOT NULL, notBefore TEXT NOT NULL)`,
    // When nobody could be reached from here.
    `CREATE TABLE outages (id TEXT PRIMARY KEY, since TEXT NOT NULL, until TEXT, says TEXT NOT NULL)`,
    `CREATE INDEX outages_open ON outages (until)`,
    `CREATE INDEX jobs_kind ON jobs (kind, state)`,
    // A list of what people ordered passes over none of what the watch does.
    `CREATE INDEX jobs_ordered ON jobs (createdAt, id) WHERE kind NOT IN ('watch', 'watch-read')`,
    `INSERT INTO stale (propertyId, mark) SELECT id, random() FROM properties WHERE true ${MARK}`,
  ],
};
