/** Marks again even what is marked, as the triggers of 0008 do. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

/**
 * What people say of a step: who does it, and until when it is left. A mark goes with its step, so that taking one away makes nothing
 * stale. How far the taking on of a property is stands beside its line in the yard.
 */
export const marks = {
  name: '0016-marks',
  up: [
    `CREATE TABLE step_marks (propertyId TEXT NOT NULL, engine TEXT NOT NULL, enrolmentId TEXT NOT NULL, kind TEXT NOT NULL,
       personId TEXT, putOffUntil TEXT, why TEXT, putOffBy TEXT, PRIMARY KEY (propertyId, engine, enrolmentId, kind)) WITHOUT ROWID`,
    `CREATE INDEX step_marks_person ON step_marks (personId) WHERE personId IS NOT NULL`,
    ...['INSERT', 'UPDATE'].map(
      (event) => `CREATE TRIGGER step_marks_${event.toLowerCase()}_stale AFTER ${event} ON step_marks BEGIN
         INSERT INTO stale (propertyId, mark) VALUES (NEW.propertyId, random()) ${MARK}; END`,
    ),
    `ALTER TABLE standings ADD COLUMN personId TEXT`,
    `ALTER TABLE standings ADD COLUMN putOff TEXT`,
    `ALTER TABLE entries ADD COLUMN personId TEXT NOT NULL DEFAULT ''`,
    `CREATE INDEX entries_person ON entries (personId, place) WHERE personId <> ''`,
    `DROP INDEX standings_kind`,
    `CREATE INDEX standings_kind ON standings (kind, engine, clientId, since, handle, putOff, personId)`,
    `DROP INDEX entries_filter`,
    `CREATE INDEX entries_filter ON entries (place, kind, clientId, acts, engines, badges, personId)`,
    `DROP INDEX entries_count`,
    `CREATE INDEX entries_count ON entries (kind, clientId, acts, engines, badges, personId)`,
    // What has changed where a token is gone.
    `ALTER TABLE cases ADD COLUMN difference TEXT NOT NULL DEFAULT '[]'`,
    // Reports that are sent by themselves, to a person or to an address of a client's people.
    `CREATE TABLE reports (id TEXT PRIMARY KEY, clientId TEXT, personId TEXT, email TEXT, every TEXT NOT NULL CHECK (every IN ('week','month')),
       clock TEXT NOT NULL, zone TEXT NOT NULL, upTo TEXT NOT NULL, nextAt TEXT NOT NULL, createdAt TEXT NOT NULL, orderedBy TEXT, endedAt TEXT)`,
    `CREATE INDEX reports_due ON reports (nextAt) WHERE endedAt IS NULL`,
    // When the registered name ends, as its owner said.
    `ALTER TABLE properties ADD COLUMN nameEnds TEXT`,
    `ALTER TABLE yard_rows ADD COLUMN done INTEGER NOT NULL DEFAULT 0`,
    `ALTER TABLE yard_rows ADD COLUMN stages INTEGER NOT NULL DEFAULT 0`,
    `CREATE INDEX yard_rows_progress ON yard_rows (clientId, done, stages)`,
    // What is summed over a filtered yard is read from the index alone.
    `DROP INDEX yard_rows_filter`,
    `CREATE INDEX yard_rows_filter ON yard_rows (handle, clientId, words, badges, kinds, done, stages)`,
  ],
};
