/** A link shows what its letter asks for; what is heard by links is told together; who is named as a client's contact is one. */
export const askedOnce = {
  name: '0031-asked-once',
  up: [
    // JSON lists; null for all of it.
    `ALTER TABLE shared_links ADD COLUMN enrolments TEXT`,
    `ALTER TABLE shared_links ADD COLUMN places TEXT`,
    // What was answered by the link itself: that it is done, or cannot be.
    `ALTER TABLE letters ADD COLUMN answerKind TEXT CHECK (answerKind IN ('done','cannot'))`,
    `CREATE TABLE link_news (id TEXT PRIMARY KEY, linkId TEXT NOT NULL REFERENCES shared_links(id) ON DELETE CASCADE, says TEXT NOT NULL,
       at TEXT NOT NULL, toldAt TEXT)`,
    `CREATE INDEX link_news_untold ON link_news (at) WHERE toldAt IS NULL`,
    `CREATE INDEX link_news_link ON link_news (linkId)`,
    `CREATE INDEX letters_link ON letters (linkId) WHERE linkId IS NOT NULL`,
    // Whoever was noted with a client as “Name <address>” has been nobody to write to so far.
    `INSERT INTO contacts (id, clientId, propertyId, name, role, email, language, createdAt, endedAt)
       SELECT lower(hex(randomblob(8))), c.id, NULL, trim(substr(c.contact, 1, instr(c.contact, '<') - 1)), 'owner',
              substr(c.contact, instr(c.contact, '<') + 1, instr(c.contact, '>') - instr(c.contact, '<') - 1), 'en', c.createdAt, NULL
         FROM clients c WHERE c.archivedAt IS NULL AND c.contact LIKE '%_ <_%@_%.__%>%'
          AND NOT EXISTS (SELECT 1 FROM contacts k WHERE k.clientId = c.id)`,
  ],
};
