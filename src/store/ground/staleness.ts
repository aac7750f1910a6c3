/** Marks again even what is marked: who derived meanwhile sees by the other number that it has to be done anew. */
const MARK = 'ON CONFLICT (propertyId) DO UPDATE SET mark = random()';

type Event = 'INSERT' | 'UPDATE' | 'DELETE';

/** The table in which something happens, what, and to which of its columns where not all matter. */
interface Happening {
  readonly table: string;
  readonly event: Event;
  readonly of?: string;
  readonly when?: string;
}

/**
 * A trigger that marks properties as stale, in the transaction of whoever writes.
 * @param name what the trigger is called after its table
 * @param properties a query for pairs of property and number
 */
function trigger(name: string, { table, event, of, when }: Happening, properties: string): string {
  const columns = of === undefined ? '' : ` OF ${of}`;
  const condition = when === undefined ? '' : ` WHEN ${when}`;
  return `CREATE TRIGGER ${table}_${name} AFTER ${event}${columns} ON ${table}${condition} BEGIN
     INSERT INTO stale (propertyId, mark) ${properties} ${MARK}; END`;
}

const OF_ENROLMENT = '(SELECT propertyId FROM enrolments WHERE id = NEW.enrolmentId)';
const OF_SITEMAP = '(SELECT propertyId FROM sitemaps WHERE id = NEW.sitemapId)';
const OF_SUBMISSION = `(SELECT sitemaps.propertyId FROM submissions JOIN sitemaps ON sitemaps.id = submissions.sitemapId
  WHERE submissions.id = NEW.submissionId)`;

/** Facts that standing is derived from, whatever happens to them, and which property a row is of, where NEW stands for the row. */
const FACTS: readonly (readonly [table: string, property: string])[] = [
  ['properties', 'NEW.id'],
  ['enrolments', 'NEW.propertyId'],
  ['tokens', OF_ENROLMENT],
  ['checks', OF_ENROLMENT],
  ['claims', OF_ENROLMENT],
  ['ownerships', OF_ENROLMENT],
  ['sitemaps', 'NEW.propertyId'],
  ['readings', OF_SITEMAP],
  ['reading_children', OF_SITEMAP],
  ['submissions', OF_SITEMAP],
  ['engine_readings', OF_SUBMISSION],
  ['variants', 'NEW.propertyId'],
  ['variant_findings', 'NEW.propertyId'],
  ['moves', 'NEW.propertyId'],
];

function markingAll([table, property]: (typeof FACTS)[number]): string[] {
  return (['INSERT', 'UPDATE', 'DELETE'] as const).map((event) => {
    const row = event === 'DELETE' ? property.replaceAll('NEW.', 'OLD.') : property;
    const found = `SELECT ${row}, random() WHERE ${row} IS NOT NULL`;
    return trigger(`${event.toLowerCase()}_stale`, { table, event }, found);
  });
}

/** Facts that matter in some ways only, by the column that names their property. */
const SOME: readonly Happening[] = [
  { table: 'step_marks', event: 'INSERT' },
  { table: 'step_marks', event: 'UPDATE' },
  { table: 'letter_properties', event: 'INSERT' },
  { table: 'carry_places', event: 'INSERT' },
  { table: 'carry_places', event: 'UPDATE', of: 'endedAt' },
  { table: 'made_versions', event: 'INSERT' },
  { table: 'made_versions', event: 'UPDATE', of: 'heldBack' },
  { table: 'made_versions', event: 'DELETE' },
];

/** What was put in place at a place of a property. */
const CARRIED: readonly Happening[] = [
  { table: 'carried', event: 'INSERT' },
  { table: 'carried', event: 'UPDATE', of: 'removedAt' },
  { table: 'carried', event: 'DELETE' },
];

const rowOf = ({ event }: Happening) => (event === 'DELETE' ? 'OLD' : 'NEW');
const nameOf = ({ event }: Happening) => `${event.toLowerCase()}_stale`;

/** All that is enrolled under the account of a link. */
const UNDER_ACCOUNT =
  'SELECT DISTINCT propertyId, random() FROM enrolments WHERE accountId = NEW.accountId AND endedAt IS NULL';

/** The other properties at the host of one, with `www.` and without: an enrolment of one of them may be over another. */
const atSameHost = (property: string) => `
  SELECT n.id, random() FROM properties p JOIN properties n
      ON n.host IN (p.host, 'www.' || p.host, substr(p.host, 5)) AND n.id <> p.id AND n.archivedAt IS NULL
   WHERE p.id = ${property}`;

/** The properties that a link for strangers is about and of which some token waits to be placed. */
const waitingBehind = (link: string) => `
  SELECT p.id, random() FROM shared_links l JOIN properties p ON p.clientId = l.clientId AND p.archivedAt IS NULL
      AND (l.propertyId IS NULL OR l.propertyId = p.id)
   WHERE l.id = ${link} AND EXISTS (SELECT 1 FROM enrolments e WHERE e.propertyId = p.id AND e.endedAt IS NULL
      AND NOT EXISTS (SELECT 1 FROM ownerships o WHERE o.enrolmentId = e.id))`;

/** What keeps every line of the journal as it was written. */
export const JOURNAL_UNCHANGED = `CREATE TRIGGER journal_unchanged BEFORE UPDATE ON journal BEGIN SELECT RAISE(ABORT, 'the journal is append-only'); END`;

/** What marks a property as stale, so that where it stands is derived anew before it is shown; and what keeps the journal as it is. */
export const marking: readonly string[] = [
  JOURNAL_UNCHANGED,
  `CREATE TRIGGER journal_kept BEFORE DELETE ON journal BEGIN SELECT RAISE(ABORT, 'the journal is append-only'); END`,
  ...FACTS.flatMap(markingAll),
  trigger(
    'stale',
    { table: 'clients', event: 'UPDATE' },
    'SELECT id, random() FROM properties WHERE clientId = NEW.id',
  ),
  trigger(
    'insert_stale',
    { table: 'link_states', event: 'INSERT', when: `NEW.kind = 'waits'` },
    UNDER_ACCOUNT,
  ),
  trigger(
    'update_stale',
    {
      table: 'link_states',
      event: 'UPDATE',
      when: `(OLD.kind = 'waits' OR NEW.kind = 'waits') AND (OLD.kind <> NEW.kind OR OLD.until IS NOT NEW.until)`,
    },
    UNDER_ACCOUNT,
  ),
  trigger(
    'insert_above',
    { table: 'enrolments', event: 'INSERT', when: 'true' },
    atSameHost('NEW.propertyId'),
  ),
  trigger(
    'update_above',
    {
      table: 'enrolments',
      event: 'UPDATE',
      when: 'OLD.endedAt IS NOT NEW.endedAt OR OLD.missingSince IS NOT NEW.missingSince',
    },
    atSameHost('NEW.propertyId'),
  ),
  trigger('insert_above', { table: 'ownerships', event: 'INSERT', when: 'true' }, atSameHost(OF_ENROLMENT)),
  trigger(
    'update_above',
    {
      table: 'properties',
      event: 'UPDATE',
      when: 'OLD.archivedAt IS NOT NEW.archivedAt OR OLD.handle IS NOT NEW.handle',
    },
    atSameHost('NEW.id'),
  ),
  ...SOME.map((one) => trigger(nameOf(one), one, `VALUES (${rowOf(one)}.propertyId, random())`)),
  trigger(
    'update_stale',
    { table: 'letters', event: 'UPDATE', of: 'answeredAt' },
    'SELECT propertyId, random() FROM letter_properties WHERE letterId = NEW.id',
  ),
  ...CARRIED.map((one) =>
    trigger(
      nameOf(one),
      one,
      `SELECT propertyId, random() FROM carry_places WHERE id = ${rowOf(one)}.placeId`,
    ),
  ),
  trigger('insert_stale', { table: 'shared_uses', event: 'INSERT' }, waitingBehind('NEW.linkId')),
  trigger(
    'opened_stale',
    { table: 'shared_links', event: 'UPDATE', of: 'openedAt', when: 'OLD.openedAt IS NOT NEW.openedAt' },
    waitingBehind('NEW.id'),
  ),
];
