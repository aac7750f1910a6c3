const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

/** The properties that a link is about and of which some token waits to be placed. */
const WAITING = (link: string) => `
  INSERT INTO stale (propertyId, mark)
    SELECT p.id, random() FROM shared_links l JOIN properties p ON p.clientId = l.clientId AND p.archivedAt IS NULL
        AND (l.propertyId IS NULL OR l.propertyId = p.id)
     WHERE l.id = ${link} AND EXISTS (SELECT 1 FROM enrolments e WHERE e.propertyId = p.id AND e.endedAt IS NULL
        AND NOT EXISTS (SELECT 1 FROM ownerships o WHERE o.enrolmentId = e.id)) ${MARK}`;

/** Tokens that wait are looked at by themselves, and claimed where a client wants that; what came of it is news. */
export const waiting = {
  name: '0030-waiting',
  up: [
    `ALTER TABLE clients ADD COLUMN claims TEXT CHECK (claims IN ('by-person','by-themselves'))`,
    // When a person said that a sitemap’s lower count is right.
    `ALTER TABLE sitemaps ADD COLUMN fallAcceptedAt TEXT`,
    // When an engine was asked last of a sitemap, whatever it said: what it has not read by then is told as of then.
    `ALTER TABLE submissions ADD COLUMN askedAt TEXT`,
    `CREATE TABLE news (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id) ON DELETE CASCADE,
       clientId TEXT NOT NULL REFERENCES clients(id) ON DELETE CASCADE, kind TEXT NOT NULL, enrolment TEXT NOT NULL, says TEXT NOT NULL,
       at TEXT NOT NULL, toldAt TEXT)`,
    `CREATE INDEX news_untold ON news (at) WHERE toldAt IS NULL`,
    `CREATE INDEX news_at ON news (at)`,
    `CREATE INDEX news_property ON news (propertyId)`,
    `CREATE INDEX news_client ON news (clientId)`,
    // What is heard by a link says when it is worth to look.
    `CREATE TRIGGER shared_uses_insert_stale AFTER INSERT ON shared_uses BEGIN ${WAITING('NEW.linkId')}; END`,
    `CREATE TRIGGER shared_links_opened_stale AFTER UPDATE OF openedAt ON shared_links WHEN OLD.openedAt IS NOT NEW.openedAt BEGIN
       ${WAITING('NEW.id')}; END`,
  ],
};
