/** The variants of properties: what each was and is, what was found, hosts beside the usual ones, and moves of the front door. */
export const variants = {
  name: '0004-variants',
  up: [
    `ALTER TABLE properties ADD COLUMN variantsAt TEXT`,
    `ALTER TABLE properties ADD COLUMN spellings TEXT`,
    `CREATE TABLE hosts (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), host TEXT NOT NULL, why TEXT NOT NULL,
       addedBy TEXT REFERENCES persons(id), addedAt TEXT NOT NULL, endedAt TEXT)`,
    `CREATE UNIQUE INDEX hosts_once ON hosts (propertyId, host) WHERE endedAt IS NULL`,
    `CREATE TABLE variants (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), address TEXT NOT NULL, why TEXT NOT NULL,
       role TEXT NOT NULL, via TEXT, endsAt TEXT, says TEXT NOT NULL, seen TEXT NOT NULL, since TEXT NOT NULL, seenAt TEXT NOT NULL, endedAt TEXT)`,
    `CREATE UNIQUE INDEX variants_now ON variants (propertyId, address) WHERE endedAt IS NULL`,
    `CREATE INDEX variants_history ON variants (propertyId, since)`,
    `CREATE TABLE variant_findings (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), code TEXT NOT NULL, subject TEXT NOT NULL,
       grade TEXT NOT NULL, finding TEXT NOT NULL, since TEXT NOT NULL, endedAt TEXT)`,
    `CREATE INDEX variant_findings_now ON variant_findings (propertyId, endedAt)`,
    `CREATE TABLE moves (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), fromAddress TEXT NOT NULL, toAddress TEXT NOT NULL,
       at TEXT NOT NULL)`,
    `CREATE INDEX moves_newest ON moves (propertyId, at)`,
  ],
};
