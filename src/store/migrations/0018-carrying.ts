/** Places to which something is carried, and what was. */
export const carrying = {
  name: '0018-carrying',
  up: [
    `CREATE TABLE carry_places (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, way TEXT NOT NULL, at TEXT NOT NULL, secret TEXT, pin TEXT, pinnedAt TEXT,
       role TEXT NOT NULL, watchMay INTEGER NOT NULL, createdAt TEXT NOT NULL, personId TEXT, endedAt TEXT)`,
    `CREATE INDEX carry_places_property ON carry_places (propertyId) WHERE endedAt IS NULL`,
    `CREATE TABLE carried (id TEXT PRIMARY KEY, placeId TEXT NOT NULL, name TEXT NOT NULL, sum TEXT NOT NULL, at TEXT NOT NULL, personId TEXT, removedAt TEXT)`,
    `CREATE INDEX carried_now ON carried (placeId, name) WHERE removedAt IS NULL`,
  ],
};
