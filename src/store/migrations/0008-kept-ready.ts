/** A table of facts, and which property its row is of, where NEW stands for the row. */
interface FactTable {
  readonly table: string;
  readonly property: string;
}

const OF_ENROLMENT = '(SELECT propertyId FROM enrolments WHERE id = NEW.enrolmentId)';
const OF_SITEMAP = '(SELECT propertyId FROM sitemaps WHERE id = NEW.sitemapId)';
const OF_SUBMISSION = `(SELECT sitemaps.propertyId FROM submissions JOIN sitemaps ON sitemaps.id = submissions.sitemapId
  WHERE submissions.id = NEW.submissionId)`;

/** Everything that standing is derived from, but for clients and links, which touch many properties at once. */
const FACTS: readonly FactTable[] = [
  { table: 'properties', property: 'NEW.id' },
  { table: 'enrolments', property: 'NEW.propertyId' },
  { table: 'tokens', property: OF_ENROLMENT },
  { table: 'checks', property: OF_ENROLMENT },
  { table: 'claims', property: OF_ENROLMENT },
  { table: 'ownerships', property: OF_ENROLMENT },
  { table: 'sitemaps', property: 'NEW.propertyId' },
  { table: 'readings', property: OF_SITEMAP },
  { table: 'reading_children', property: OF_SITEMAP },
  { table: 'submissions', property: OF_SITEMAP },
  { table: 'engine_readings', property: OF_SUBMISSION },
  { table: 'variants', property: 'NEW.propertyId' },
  { table: 'variant_findings', property: 'NEW.propertyId' },
  { table: 'moves', property: 'NEW.propertyId' },
];

/** Marks again even what is marked: who derived meanwhile sees by the other number that it has to be done anew. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

function marking({ table, property }: FactTable): string[] {
  return (['INSERT', 'UPDATE', 'DELETE'] as const).map((event) => {
    const row = event === 'DELETE' ? property.replaceAll('NEW.', 'OLD.') : property;
    return `CREATE TRIGGER ${table}_${event.toLowerCase()}_stale AFTER ${event} ON ${table} BEGIN
       INSERT INTO stale (propertyId, mark) SELECT ${row}, random() WHERE ${row} IS NOT NULL ${MARK}; END`;
  });
}

/** An engine that switches something off or on again changes the steps of all that is enrolled under the account. */
function linkMarking(event: 'INSERT' | 'UPDATE', when: string): string {
  return `CREATE TRIGGER link_states_${event.toLowerCase()}_stale AFTER ${event} ON link_states WHEN ${when} BEGIN
     INSERT INTO stale (propertyId, mark) SELECT DISTINCT propertyId, random() FROM enrolments
       WHERE accountId = NEW.accountId AND endedAt IS NULL ${MARK}; END`;
}

/**
 * Where things stand, kept ready to be read: a projection of the facts, never a truth. What changes a fact marks its property
 * as stale in the same transaction, whoever writes; what is stale is derived anew before it is shown.
 */
export const keptReady = {
  name: '0008-kept-ready',
  up: [
    `CREATE TABLE stale (propertyId TEXT PRIMARY KEY, mark INTEGER NOT NULL) WITHOUT ROWID`,
    // What else was derived by: the profiles of engines and the version of the derivation. Where it is another, all is stale.
    `CREATE TABLE derived_by (id INTEGER PRIMARY KEY CHECK (id = 1), ground TEXT NOT NULL)`,
    `CREATE TABLE standings (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, handle TEXT NOT NULL, engine TEXT NOT NULL,
       enrolmentId TEXT, badge TEXT, kind TEXT NOT NULL, harm INTEGER NOT NULL, acts TEXT NOT NULL, since TEXT NOT NULL,
       until TEXT, says TEXT NOT NULL, turnsAt TEXT)`,
    `CREATE INDEX standings_property ON standings (propertyId)`,
    `CREATE INDEX standings_kind ON standings (kind, engine, clientId, since, handle)`,
    `CREATE INDEX standings_badge ON standings (badge, clientId, engine)`,
    `CREATE INDEX standings_turn ON standings (turnsAt) WHERE turnsAt IS NOT NULL`,
    `CREATE TABLE entries (place TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, kind TEXT NOT NULL, acts TEXT NOT NULL,
       engines TEXT NOT NULL, badges TEXT NOT NULL, words TEXT NOT NULL, document TEXT NOT NULL)`,
    `CREATE INDEX entries_property ON entries (propertyId)`,
    `CREATE INDEX entries_filter ON entries (place, kind, clientId, acts, engines, badges)`,
    `CREATE INDEX entries_count ON entries (kind, clientId, acts, engines, badges)`,
    `CREATE TABLE yard_rows (propertyId TEXT PRIMARY KEY, clientId TEXT NOT NULL, handle TEXT NOT NULL, words TEXT NOT NULL,
       badges TEXT NOT NULL, kinds TEXT NOT NULL, document TEXT NOT NULL)`,
    `CREATE INDEX yard_rows_filter ON yard_rows (handle, clientId, words, badges, kinds)`,
    `CREATE TABLE sitemap_rows (sitemapId TEXT PRIMARY KEY, propertyId TEXT NOT NULL, clientId TEXT NOT NULL, byProperty TEXT NOT NULL, byGap TEXT NOT NULL, byAge TEXT NOT NULL,
       byFall TEXT NOT NULL, work TEXT NOT NULL, state TEXT NOT NULL, counts TEXT NOT NULL, words TEXT NOT NULL, document TEXT NOT NULL)`,
    `CREATE INDEX sitemap_rows_property ON sitemap_rows (propertyId)`,
    ...['byProperty', 'byGap', 'byAge', 'byFall'].map(
      (order) =>
        `CREATE INDEX sitemap_rows_${order} ON sitemap_rows (${order}, work, state, clientId, counts, words)`,
    ),
    ...FACTS.flatMap(marking),
    `CREATE TRIGGER clients_stale AFTER UPDATE ON clients BEGIN
       INSERT INTO stale (propertyId, mark) SELECT id, random() FROM properties WHERE clientId = NEW.id ${MARK}; END`,
    linkMarking('INSERT', `NEW.kind = 'waits'`),
    linkMarking(
      'UPDATE',
      `(OLD.kind = 'waits' OR NEW.kind = 'waits') AND (OLD.kind <> NEW.kind OR OLD.until IS NOT NEW.until)`,
    ),
    // Everything that was there before is derived at the first look.
    `INSERT INTO stale (propertyId, mark) SELECT id, random() FROM properties`,
    // The newest look at a placement is found without its history.
    `CREATE INDEX checks_of_token ON checks (tokenId, checkedAt DESC, seen)`,
  ],
};
