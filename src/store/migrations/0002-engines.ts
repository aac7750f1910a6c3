/** Several engines: accounts with keys of their own, facts told at registration, how each link stands, what is recorded by hand. */
export const engines = {
  name: '0002-engines',
  up: [
    `ALTER TABLE accounts ADD COLUMN keyFrom TEXT`,
    `ALTER TABLE accounts ADD COLUMN keySealed TEXT`,
    `ALTER TABLE accounts ADD COLUMN passedOnAt TEXT`,
    `ALTER TABLE accounts ADD COLUMN passedOnTo TEXT REFERENCES clients(id)`,
    `ALTER TABLE accounts ADD COLUMN version INTEGER NOT NULL DEFAULT 1`,
    `ALTER TABLE properties ADD COLUMN facts TEXT NOT NULL DEFAULT '{}'`,
    `ALTER TABLE enrolments ADD COLUMN missingSince TEXT`,
    `CREATE INDEX enrolments_account ON enrolments (accountId)`,
    `ALTER TABLE tokens ADD COLUMN replacedWhy TEXT CHECK (replacedWhy IN ('expired','changed'))`,
    `ALTER TABLE tokens ADD COLUMN recordedBy TEXT REFERENCES persons(id)`,
    `ALTER TABLE claims ADD COLUMN recordedBy TEXT REFERENCES persons(id)`,
    `ALTER TABLE ownerships ADD COLUMN recordedBy TEXT REFERENCES persons(id)`,
    `ALTER TABLE engine_readings ADD COLUMN recordedBy TEXT REFERENCES persons(id)`,
    `CREATE TABLE link_states (accountId TEXT NOT NULL REFERENCES accounts(id), work TEXT NOT NULL,
       kind TEXT NOT NULL CHECK (kind IN ('answers','waits','unreached')), says TEXT, until TEXT, since TEXT NOT NULL, at TEXT NOT NULL,
       PRIMARY KEY (accountId, work))`,
  ],
};
