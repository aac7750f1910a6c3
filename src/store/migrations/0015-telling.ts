/** Cases that people are told of, who is told what, and the messages by which they are. */
export const telling = {
  name: '0015-telling',
  up: [
    `CREATE TABLE cases (id TEXT PRIMARY KEY, propertyId TEXT, clientId TEXT, kind TEXT NOT NULL, cause TEXT NOT NULL, since TEXT NOT NULL,
       says TEXT NOT NULL, remedy TEXT NOT NULL, acts TEXT NOT NULL, until TEXT, touches TEXT NOT NULL, atOnce INTEGER NOT NULL,
       openedAt TEXT NOT NULL, endedAt TEXT, mended INTEGER, toldAt TEXT, endToldAt TEXT)`,
    `CREATE INDEX cases_open ON cases (propertyId, endedAt)`,
    `CREATE INDEX cases_untold ON cases (openedAt) WHERE toldAt IS NULL`,
    `CREATE INDEX cases_end_untold ON cases (endedAt) WHERE endedAt IS NOT NULL AND endToldAt IS NULL`,
    `CREATE INDEX cases_now ON cases (kind) WHERE endedAt IS NULL`,
    `CREATE INDEX cases_opened ON cases (openedAt, id)`,
    `CREATE INDEX cases_ended ON cases (endedAt, id)`,
    // When the engine looked at what it holds, where it says so.
    `ALTER TABLE enrolments ADD COLUMN engineLookedAt TEXT`,
    // A property's cases turn by time alone as its steps do.
    `ALTER TABLE yard_rows ADD COLUMN turnsAt TEXT`,
    `CREATE INDEX yard_rows_turn ON yard_rows (turnsAt) WHERE turnsAt IS NOT NULL`,
    `CREATE TABLE tellings (personId TEXT PRIMARY KEY, email TEXT, zone TEXT NOT NULL, digestAt TEXT NOT NULL, atOnce INTEGER NOT NULL,
       digest INTEGER NOT NULL, clients TEXT, upTo TEXT NOT NULL)`,
    `CREATE TABLE hooks (id TEXT PRIMARY KEY, url TEXT NOT NULL, secret TEXT NOT NULL, clientId TEXT, createdAt TEXT NOT NULL, personId TEXT,
       endedAt TEXT)`,
    `CREATE TABLE messages (id TEXT PRIMARY KEY, way TEXT NOT NULL CHECK (way IN ('mail','hook')), personId TEXT, hookId TEXT, sentTo TEXT NOT NULL,
       subject TEXT NOT NULL, body TEXT NOT NULL, createdAt TEXT NOT NULL, nextAt TEXT, tries INTEGER NOT NULL, sentAt TEXT, deadAt TEXT, fault TEXT)`,
    `CREATE INDEX messages_due ON messages (nextAt) WHERE nextAt IS NOT NULL`,
    `CREATE INDEX messages_dead ON messages (deadAt) WHERE deadAt IS NOT NULL`,
    `CREATE INDEX messages_newest ON messages (createdAt, id)`,
    `INSERT INTO stale (propertyId, mark) SELECT id, random() FROM properties WHERE true ON CONFLICT (propertyId) DO UPDATE SET mark = random()`,
  ],
};
