/** Variants of a property’s address, and moves of its front door. */
export const variants: readonly string[] = [
  `CREATE TABLE variants (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), address TEXT NOT NULL, why TEXT
     NOT NULL, role TEXT NOT NULL, via TEXT, endsAt TEXT, says TEXT NOT NULL, seen TEXT NOT NULL, since TEXT NOT NULL, seenAt
     TEXT NOT NULL, endedAt TEXT)`,
  `CREATE UNIQUE INDEX variants_now ON variants (propertyId, address) WHERE endedAt IS NULL`,
  `CREATE INDEX variants_history ON variants (propertyId, since)`,
  `CREATE TABLE variant_findings (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), code TEXT NOT NULL,
     subject TEXT NOT NULL, grade TEXT NOT NULL, finding TEXT NOT NULL, since TEXT NOT NULL, endedAt TEXT)`,
  `CREATE INDEX variant_findings_now ON variant_findings (propertyId, endedAt)`,
  `CREATE TABLE moves (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id), fromAddress TEXT NOT NULL,
     toAddress TEXT NOT NULL, at TEXT NOT NULL)`,
  `CREATE INDEX moves_newest ON moves (propertyId, at)`,
];
