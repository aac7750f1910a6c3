/** Clients, their properties, and their people. */
export const clients: readonly string[] = [
  `CREATE TABLE clients (id TEXT PRIMARY KEY, handle TEXT NOT NULL UNIQUE, name TEXT NOT NULL, contact TEXT, audience TEXT NOT
     NULL, version INTEGER NOT NULL, createdAt TEXT NOT NULL, archivedAt TEXT, claims TEXT CHECK (claims IN
     ('by-person','by-themselves')))`,
  `CREATE TABLE properties (id TEXT PRIMARY KEY, clientId TEXT NOT NULL REFERENCES clients(id), handle TEXT NOT NULL UNIQUE,
     address TEXT NOT NULL, host TEXT NOT NULL, frontDoor TEXT, frontDoorSays TEXT, frontDoorAt TEXT, version INTEGER NOT NULL,
     createdAt TEXT NOT NULL, archivedAt TEXT, facts TEXT NOT NULL DEFAULT '{}', access TEXT NOT NULL DEFAULT '{}', siteSeen
     TEXT, variantsAt TEXT, spellings TEXT, rhythms TEXT NOT NULL DEFAULT '{}', nameEnds TEXT)`,
  `CREATE UNIQUE INDEX properties_address ON properties (address) WHERE archivedAt IS NULL`,
  `CREATE INDEX properties_client ON properties (clientId)`,
  `CREATE INDEX properties_host ON properties (host)`,
  `CREATE TABLE hosts (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), host TEXT NOT NULL, why TEXT NOT
     NULL, addedBy TEXT REFERENCES persons(id), addedAt TEXT NOT NULL, endedAt TEXT)`,
  `CREATE UNIQUE INDEX hosts_once ON hosts (propertyId, host) WHERE endedAt IS NULL`,
  `CREATE TABLE contacts (id TEXT PRIMARY KEY, clientId TEXT NOT NULL, propertyId TEXT, name TEXT NOT NULL, role TEXT NOT NULL,
     email TEXT, language TEXT NOT NULL, createdAt TEXT NOT NULL, endedAt TEXT)`,
  `CREATE INDEX contacts_client ON contacts (clientId) WHERE endedAt IS NULL`,
  `CREATE TABLE letters (id TEXT PRIMARY KEY, contactId TEXT NOT NULL, clientId TEXT NOT NULL, way TEXT NOT NULL, sentTo TEXT,
     subject TEXT NOT NULL, text TEXT NOT NULL, messageId TEXT, linkId TEXT, at TEXT NOT NULL, personId TEXT, answeredAt TEXT,
     answer TEXT, answerKind TEXT CHECK (answerKind IN ('done','cannot')))`,
  `CREATE INDEX letters_client ON letters (clientId, at)`,
  `CREATE INDEX letters_contact ON letters (contactId, at)`,
  `CREATE INDEX letters_newest ON letters (at DESC, id)`,
  `CREATE INDEX letters_open ON letters (at DESC, id) WHERE answeredAt IS NULL`,
  `CREATE INDEX letters_link ON letters (linkId) WHERE linkId IS NOT NULL`,
  `CREATE TABLE letter_properties (letterId TEXT NOT NULL, propertyId TEXT NOT NULL, PRIMARY KEY (propertyId, letterId)) WITHOUT
     ROWID`,
  `CREATE TABLE wordings (language TEXT NOT NULL, part TEXT NOT NULL, name TEXT NOT NULL, says TEXT NOT NULL, at TEXT NOT NULL,
     personId TEXT, PRIMARY KEY (language, part, name)) WITHOUT ROWID`,
  `CREATE TABLE client_reports (id TEXT PRIMARY KEY, clientId TEXT NOT NULL, spanFrom TEXT NOT NULL, spanTo TEXT NOT NULL, at TEXT
     NOT NULL, personId TEXT, sentTo TEXT, messageId TEXT, title TEXT NOT NULL, html TEXT NOT NULL, markdown TEXT NOT NULL,
     report TEXT NOT NULL)`,
  `CREATE INDEX client_reports_client ON client_reports (clientId, at)`,
  `CREATE TABLE reports (id TEXT PRIMARY KEY, clientId TEXT, personId TEXT, email TEXT, every TEXT NOT NULL CHECK (every IN
     ('week','month')), clock TEXT NOT NULL, zone TEXT NOT NULL, upTo TEXT NOT NULL, nextAt TEXT NOT NULL, createdAt TEXT NOT
     NULL, orderedBy TEXT, endedAt TEXT)`,
  `CREATE INDEX reports_due ON reports (nextAt) WHERE endedAt IS NULL`,
  `CREATE TABLE handovers (id TEXT PRIMARY KEY, clientId TEXT NOT NULL, startedAt TEXT NOT NULL, personId TEXT, deleteOn TEXT,
     endedAt TEXT, toldAt TEXT)`,
  `CREATE INDEX handovers_client ON handovers (clientId, startedAt)`,
  `CREATE INDEX handovers_delete ON handovers (deleteOn) WHERE deleteOn IS NOT NULL AND toldAt IS NULL`,
  `CREATE TABLE handover_ticks (handoverId TEXT NOT NULL, item TEXT NOT NULL, at TEXT NOT NULL, personId TEXT, note TEXT, PRIMARY
     KEY (handoverId, item)) WITHOUT ROWID`,
  `CREATE TABLE holders (enrolmentId TEXT PRIMARY KEY, at TEXT NOT NULL, items TEXT NOT NULL, says TEXT, personId TEXT) WITHOUT
     ROWID`,
  `CREATE TABLE shared_links (id TEXT PRIMARY KEY, hash TEXT NOT NULL UNIQUE, clientId TEXT NOT NULL, propertyId TEXT, word TEXT,
     language TEXT NOT NULL, tells INTEGER NOT NULL, createdAt TEXT NOT NULL, personId TEXT, expiresAt TEXT NOT NULL, endedAt
     TEXT, how TEXT, opened INTEGER NOT NULL, openedAt TEXT, enrolments TEXT, places TEXT)`,
  `CREATE INDEX shared_links_client ON shared_links (clientId, createdAt)`,
  `CREATE INDEX shared_links_open ON shared_links (expiresAt) WHERE endedAt IS NULL`,
  `CREATE INDEX shared_links_newest ON shared_links (createdAt DESC, id)`,
  `CREATE TABLE shared_uses (id TEXT PRIMARY KEY, linkId TEXT NOT NULL, at TEXT NOT NULL, kind TEXT NOT NULL, says TEXT)`,
  `CREATE INDEX shared_uses_link ON shared_uses (linkId, at)`,
];
