/** Marks again even what is marked, as the triggers of 0008 do. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

/** The people of a client, the letters that they were written, and what they answered. */
export const letters = {
  name: '0023-letters',
  up: [
    `CREATE TABLE contacts (id TEXT PRIMARY KEY, clientId TEXT NOT NULL, propertyId TEXT, name TEXT NOT NULL, role TEXT NOT NULL, email TEXT,
       language TEXT NOT NULL, createdAt TEXT NOT NULL, endedAt TEXT)`,
    `CREATE INDEX contacts_client ON contacts (clientId) WHERE endedAt IS NULL`,
    `CREATE TABLE letters (id TEXT PRIMARY KEY, contactId TEXT NOT NULL, clientId TEXT NOT NULL, way TEXT NOT NULL, sentTo TEXT, subject TEXT NOT NULL,
       text TEXT NOT NULL, messageId TEXT, linkId TEXT, at TEXT NOT NULL, personId TEXT, answeredAt TEXT, answer TEXT)`,
    `CREATE INDEX letters_client ON letters (clientId, at)`,
    `CREATE INDEX letters_contact ON letters (contactId, at)`,
    `CREATE TABLE letter_properties (letterId TEXT NOT NULL, propertyId TEXT NOT NULL, PRIMARY KEY (propertyId, letterId)) WITHOUT ROWID`,
    `CREATE TRIGGER letter_properties_insert_stale AFTER INSERT ON letter_properties BEGIN
       INSERT INTO stale (propertyId, mark) VALUES (NEW.propertyId, random()) ${MARK}; END`,
    `CREATE TRIGGER letters_update_stale AFTER UPDATE OF answeredAt ON letters BEGIN
       INSERT INTO stale (propertyId, mark) SELECT propertyId, random() FROM letter_properties WHERE letterId = NEW.id ${MARK}; END`,
  ],
};
