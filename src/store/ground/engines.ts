/** What is done at engines: accounts, enrolments, tokens, looks, claims, and what an engine said. */
export const engines: readonly string[] = [
  `CREATE TABLE accounts (id TEXT PRIMARY KEY, engine TEXT NOT NULL, name TEXT NOT NULL, createdAt TEXT NOT NULL, keyFrom TEXT,
     keySealed TEXT, passedOnAt TEXT, passedOnTo TEXT REFERENCES clients(id), version INTEGER NOT NULL DEFAULT 1, UNIQUE
     (engine, name))`,
  `CREATE TABLE key_bases (variable TEXT PRIMARY KEY, origin TEXT NOT NULL, since TEXT NOT NULL)`,
  `CREATE TABLE link_states (accountId TEXT NOT NULL REFERENCES accounts(id), work TEXT NOT NULL, kind TEXT NOT NULL CHECK (kind IN
     ('answers','waits','unreached')), says TEXT, until TEXT, since TEXT NOT NULL, at TEXT NOT NULL, PRIMARY KEY (accountId,
     work))`,
  `CREATE TABLE link_news (id TEXT PRIMARY KEY, linkId TEXT NOT NULL REFERENCES shared_links(id) ON DELETE CASCADE, says TEXT NOT
     NULL, at TEXT NOT NULL, toldAt TEXT)`,
  `CREATE INDEX link_news_untold ON link_news (at) WHERE toldAt IS NULL`,
  `CREATE INDEX link_news_link ON link_news (linkId)`,
  `CREATE TABLE enrolments (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), engine TEXT NOT NULL,
     accountId TEXT NOT NULL REFERENCES accounts(id), reach TEXT NOT NULL CHECK (reach IN ('name','address')), target TEXT NOT
     NULL, ref TEXT NOT NULL, createdAt TEXT NOT NULL, endedAt TEXT, missingSince TEXT, endAskedAt TEXT, engineLookedAt TEXT,
     askedMethod TEXT, askedAt TEXT)`,
  `CREATE UNIQUE INDEX enrolments_once ON enrolments (propertyId, engine, accountId, reach, target) WHERE endedAt IS NULL`,
  `CREATE INDEX enrolments_account ON enrolments (accountId)`,
  `CREATE INDEX enrolments_target ON enrolments (target) WHERE endedAt IS NULL`,
  `CREATE TABLE tokens (id TEXT PRIMARY KEY, enrolmentId TEXT NOT NULL REFERENCES enrolments(id), method TEXT NOT NULL, value TEXT
     NOT NULL, issuedAt TEXT NOT NULL, expiresAt TEXT, replacedAt TEXT, recordedBy TEXT REFERENCES persons(id), replacedWhy TEXT
     CHECK (replacedWhy IN ('expired','changed','forgotten')))`,
  `CREATE UNIQUE INDEX tokens_in_force ON tokens (enrolmentId, method) WHERE replacedAt IS NULL`,
  `CREATE INDEX tokens_value ON tokens (value)`,
  `CREATE TABLE checks (id TEXT PRIMARY KEY, enrolmentId TEXT NOT NULL REFERENCES enrolments(id), tokenId TEXT NOT NULL REFERENCES
     tokens(id), method TEXT NOT NULL, place TEXT NOT NULL, checkedAt TEXT NOT NULL, seen INTEGER NOT NULL, seenSince TEXT NOT
     NULL, forecast TEXT NOT NULL, visibleAt TEXT, findings TEXT NOT NULL, evidence TEXT NOT NULL, firstAt TEXT, times INTEGER
     NOT NULL DEFAULT 1, told TEXT CHECK (told IN ('seen','gone')), toldSince TEXT)`,
  `CREATE INDEX checks_newest ON checks (enrolmentId, method, checkedAt)`,
  `CREATE INDEX checks_token ON checks (tokenId, checkedAt)`,
  `CREATE INDEX checks_history ON checks (enrolmentId, checkedAt, id)`,
  `CREATE INDEX checks_of_token ON checks (tokenId, checkedAt DESC, seen)`,
  `CREATE INDEX checks_age ON checks (checkedAt)`,
  `CREATE TABLE evidence (checkId TEXT NOT NULL REFERENCES checks(id) ON DELETE CASCADE, which TEXT NOT NULL CHECK (which IN
     ('first','newest')), at TEXT NOT NULL, packed BLOB NOT NULL, PRIMARY KEY (checkId, which))`,
  `CREATE INDEX evidence_age ON evidence (at)`,
  `CREATE TABLE claims (id TEXT PRIMARY KEY, enrolmentId TEXT NOT NULL REFERENCES enrolments(id), method TEXT NOT NULL, tokenId
     TEXT NOT NULL REFERENCES tokens(id), askedAt TEXT NOT NULL, answeredAt TEXT, verdict TEXT, reason TEXT, recordedBy TEXT
     REFERENCES persons(id))`,
  `CREATE INDEX claims_newest ON claims (enrolmentId, askedAt)`,
  `CREATE UNIQUE INDEX claims_open ON claims (enrolmentId) WHERE answeredAt IS NULL`,
  `CREATE TABLE ownerships (id TEXT PRIMARY KEY, enrolmentId TEXT NOT NULL REFERENCES enrolments(id), at TEXT NOT NULL, kind TEXT
     NOT NULL CHECK (kind IN ('confirmed','withdrawn')), method TEXT, reason TEXT, recordedBy TEXT REFERENCES persons(id))`,
  `CREATE INDEX ownerships_newest ON ownerships (enrolmentId, at)`,
  `CREATE TABLE page_asks (id TEXT PRIMARY KEY, enrolmentId TEXT NOT NULL REFERENCES enrolments(id), accountId TEXT NOT NULL
     REFERENCES accounts(id), kind TEXT NOT NULL CHECK (kind IN ('lookup','visit')), address TEXT NOT NULL, at TEXT NOT NULL,
     listed INTEGER, visitedAt TEXT, says TEXT, answeredAt TEXT)`,
  `CREATE INDEX page_asks_ration ON page_asks (accountId, kind, at)`,
  `CREATE INDEX page_asks_address ON page_asks (address, at)`,
  `CREATE INDEX page_asks_enrolment ON page_asks (enrolmentId, at)`,
];
