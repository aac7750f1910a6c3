/** People, what they may do, and what was done. */
export const people: readonly string[] = [
  `CREATE TABLE persons (id TEXT PRIMARY KEY, name TEXT NOT NULL COLLATE NOCASE UNIQUE, role TEXT NOT NULL CHECK (role IN
     ('lead','consultant','onlooker')), password TEXT NOT NULL, createdAt TEXT NOT NULL, endedAt TEXT)`,
  `CREATE TABLE keys (id TEXT PRIMARY KEY, personId TEXT NOT NULL REFERENCES persons(id), kind TEXT NOT NULL CHECK (kind IN
     ('key','session')), label TEXT NOT NULL, hash TEXT NOT NULL UNIQUE, createdAt TEXT NOT NULL, expiresAt TEXT, endedAt TEXT,
     agent TEXT, usedAt TEXT)`,
  `CREATE INDEX keys_person ON keys (personId, endedAt)`,
  `CREATE TABLE replays (personId TEXT NOT NULL REFERENCES persons(id), key TEXT NOT NULL, request TEXT NOT NULL, status INTEGER,
     body TEXT, createdAt TEXT NOT NULL, jobId TEXT REFERENCES jobs(id), PRIMARY KEY (personId, key))`,
  `CREATE INDEX replays_age ON replays (createdAt)`,
  `CREATE TABLE journal (seq INTEGER PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, personId TEXT REFERENCES persons(id), kind TEXT
     NOT NULL, clientId TEXT REFERENCES clients(id), propertyId TEXT REFERENCES properties(id), enrolmentId TEXT, says TEXT NOT
     NULL, details TEXT)`,
  `CREATE INDEX journal_property ON journal (propertyId, seq)`,
  `CREATE INDEX journal_client ON journal (clientId, seq)`,
  `CREATE INDEX journal_kind ON journal (kind, seq)`,
  `CREATE INDEX journal_person ON journal (personId, seq)`,
  `CREATE INDEX journal_at ON journal (at, seq)`,
  `CREATE INDEX journal_client_at ON journal (clientId, at)`,
  `CREATE TABLE lease (id INTEGER PRIMARY KEY CHECK (id = 1), holder TEXT NOT NULL, host TEXT NOT NULL, pid INTEGER NOT NULL,
     beatAt INTEGER NOT NULL)`,
  `CREATE TABLE clock_seen (id INTEGER PRIMARY KEY CHECK (id = 1), at TEXT NOT NULL)`,
];
