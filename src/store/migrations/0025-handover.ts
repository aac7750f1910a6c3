/** Who holds what is enrolled, as engines or people say, and how far the handing over of a client is. */
export const handover = {
  name: '0025-handover',
  up: [
    `CREATE TABLE holders (enrolmentId TEXT PRIMARY KEY, at TEXT NOT NULL, items TEXT NOT NULL, says TEXT, personId TEXT) WITHOUT ROWID`,
    `CREATE TABLE handovers (id TEXT PRIMARY KEY, clientId TEXT NOT NULL, startedAt TEXT NOT NULL, personId TEXT, deleteOn TEXT, endedAt TEXT, toldAt TEXT)`,
    `CREATE INDEX handovers_client ON handovers (clientId, startedAt)`,
    `CREATE INDEX handovers_delete ON handovers (deleteOn) WHERE deleteOn IS NOT NULL AND toldAt IS NULL`,
    `CREATE TABLE handover_ticks (handoverId TEXT NOT NULL, item TEXT NOT NULL, at TEXT NOT NULL, personId TEXT, note TEXT, PRIMARY KEY (handoverId, item)) WITHOUT ROWID`,
  ],
};
