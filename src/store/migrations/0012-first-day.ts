/** Marks again even what is marked, as the triggers of 0008 do. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

/** The other properties at the host of one, with `www.` and without: an enrolment of one of them may be over another. */
const AT_SAME_HOST = (property: string) => `
  SELECT n.id, random() FROM properties p JOIN properties n
      ON n.host IN (p.host, 'www.' || p.host, substr(p.host, 5)) AND n.id <> p.id AND n.archivedAt IS NULL
   WHERE p.id = ${property}`;

/** An enrolment or an ownership of one property changes where those stand that it is over. */
function marking(table: string, event: 'INSERT' | 'UPDATE', property: string, when = 'true'): string {
  return `CREATE TRIGGER ${table}_${event.toLowerCase()}_above AFTER ${event} ON ${table} WHEN ${when} BEGIN
     INSERT INTO stale (propertyId, mark) ${AT_SAME_HOST(property)} ${MARK}; END`;
}

/**
 * What is held for the site above a folder counts for the folder; what is worked by hand has ended only once a person says so; what is
 * archived gives its handle free.
 */
export const firstDay = {
  name: '0012-first-day',
  up: [
    `ALTER TABLE enrolments ADD COLUMN endAskedAt TEXT`,
    // A token may also have been taken back by a person.
    `ALTER TABLE tokens ADD COLUMN why TEXT CHECK (why IN ('expired','changed','forgotten'))`,
    `UPDATE tokens SET why = replacedWhy`,
    `ALTER TABLE tokens DROP COLUMN replacedWhy`,
    `ALTER TABLE tokens RENAME COLUMN why TO replacedWhy`,
    // What is in the archive gives its handle free, and is known by it all the same.
    ...['properties', 'clients'].map(
      (table) => `UPDATE ${table} SET handle = handle || '~' || substr(id, -6) WHERE archivedAt IS NOT NULL`,
    ),
    `CREATE INDEX properties_host ON properties (host)`,
    `CREATE INDEX enrolments_target ON enrolments (target) WHERE endedAt IS NULL`,
    marking('enrolments', 'INSERT', 'NEW.propertyId'),
    marking(
      'enrolments',
      'UPDATE',
      'NEW.propertyId',
      'OLD.endedAt IS NOT NEW.endedAt OR OLD.missingSince IS NOT NEW.missingSince',
    ),
    marking('ownerships', 'INSERT', '(SELECT propertyId FROM enrolments WHERE id = NEW.enrolmentId)'),
    marking(
      'properties',
      'UPDATE',
      'NEW.id',
      'OLD.archivedAt IS NOT NEW.archivedAt OR OLD.handle IS NOT NEW.handle',
    ),
  ],
};
