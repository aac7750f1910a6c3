import { NO_REASON } from '../context/no-reason.js';
import type { Transaction } from 'sequelize';
import type { PutOffInput, HandInput, Marked, StepsMeant } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { Problem } from '../../api/problems.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import { causeOf, STEP_KINDS } from '../../core/worklist/kinds.js';
import { UNASSIGNED, type StepAssignment } from '../../core/worklist/assignment.js';
import { PropertyRow } from '../../store/models/clients.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { engineIdOf } from '../context/engine-ref.js';
import { note, personNames } from '../context/journal.js';
import { page } from '../../core/alerts/message.js';
import { escaped } from '../../core/text/escaped.js';
import { writeMessage } from '../outbox/messages.js';
import { recipients } from '../outbox/recipients.js';
import { findPerson, type SignedIn } from '../people/persons.js';
import type { Freshness } from '../lists/freshness.js';
import { equals, filterFor, type Conditions, type Filter } from '../lists/narrow.js';

interface MarkValues {
  readonly propertyId: string;
  readonly engine: string;
  /** Empty where the step is of no enrolment. */
  readonly enrolmentId: string;
  readonly kind: string;
  readonly personId: string | null;
  readonly putOffUntil: string | null;
  readonly why: string | null;
  readonly putOffBy: string | null;
}

type Place = Pick<MarkValues, 'propertyId' | 'engine' | 'enrolmentId' | 'kind'>;

/** What people said of the steps of some properties, by where each step is. */
export async function assignmentsOf(
  { store }: Desk,
  propertyIds: readonly string[],
): Promise<(place: Place) => StepAssignment | null> {
  const rows = await store.select<MarkValues>(
    'SELECT * FROM step_marks WHERE propertyId IN (SELECT value FROM json_each($ids))',
    {
      ids: [...propertyIds],
    },
  );
  const names = await personNames(rows.flatMap(({ personId, putOffBy }) => [personId, putOffBy]));
  const marks = new Map(rows.map((row) => [keyOf(row), markOf(row, names)]));
  const handed = new Map(
    rows.flatMap((row) => (row.personId === null ? [] : [[causeKeyOf(row), markOf(row, names)] as const])),
  );
  // To whom something was handed follows its cause, whatever step it has come to by now; what was put off was that step alone.
  return (place) => {
    const own = marks.get(keyOf(place)) ?? null;
    const { person } = handed.get(causeKeyOf(place)) ?? UNASSIGNED;
    return own ?? (person && { person, putOff: null });
  };
}

function keyOf({ propertyId, engine, enrolmentId, kind }: Place): string {
  return [propertyId, engine, enrolmentId, kind].join(' ');
}

function causeKeyOf({ kind, ...place }: Place): string {
  return keyOf({ ...place, kind: causeOf(kind) });
}

function markOf(
  { personId, putOffUntil, why, putOffBy }: MarkValues,
  names: ReadonlyMap<string, string>,
): StepAssignment {
  return {
    person: personId === null ? null : { id: personId, name: names.get(personId) ?? '' },
    putOff:
      putOffUntil === null
        ? null
        : {
            until: new Date(putOffUntil),
            why: why ?? '',
            who: putOffBy === null ? null : (names.get(putOffBy) ?? null),
          },
  };
}

/** The cause of each kind of step, as JSON. */
const CAUSE_OF_KIND = JSON.stringify(Object.fromEntries(STEP_KINDS.map((kind) => [kind, causeOf(kind)])));

/** Takes away the marks whose steps are no more: they tick themselves off when the fact changes. */
export async function dropAssignments(
  { store }: Desk,
  propertyIds: readonly string[],
  transaction: Transaction,
): Promise<void> {
  await store.run(
    `DELETE FROM step_marks WHERE propertyId IN (SELECT value FROM json_each($ids)) AND NOT EXISTS (SELECT 1 FROM standings s
       WHERE s.propertyId = step_marks.propertyId AND s.engine = step_marks.engine
         AND ifnull(s.enrolmentId, '') = step_marks.enrolmentId AND (s.kind = step_marks.kind OR (step_marks.personId IS NOT NULL
         AND json_extract($causes, '$."' || s.kind || '"') = json_extract($causes, '$."' || step_marks.kind || '"'))))`,
    { ids: [...propertyIds], causes: CAUSE_OF_KIND },
    transaction,
  );
}

const CONDITIONS: Conditions = {
  client: equals('clientId'),
  property: equals('propertyId'),
  kind: equals('kind'),
};

/** Leaves steps until a day, with a reason. Throws Problem. */
export async function putOff(
  desk: Desk,
  kept: Freshness,
  actor: Actor,
  { until, why = NO_REASON, ...steps }: PutOffInput,
): Promise<Marked> {
  const end = new Date(until).toISOString();
  if (end <= nowText(desk)) throw new Problem('not-to-come', { at: until });
  return mark(desk, kept, actor, steps, {
    kind: 'step.put-off',
    says: `put off until ${writtenMinute(end)}: ${why}`,
    values: { putOffUntil: end, why, putOffBy: actor.personId },
  });
}

/** Takes steps up again that were put off. Throws Problem. */
export async function takeUp(desk: Desk, kept: Freshness, actor: Actor, steps: StepsMeant): Promise<Marked> {
  return mark(desk, kept, actor, steps, {
    kind: 'step.taken-up',
    says: 'taken up again',
    values: { putOffUntil: null, why: null, putOffBy: null },
  });
}

/** Hands steps to a person, or to nobody in particular. Throws Problem. */
export async function handOver(
  desk: Desk,
  kept: Freshness,
  who: SignedIn,
  { person, ...steps }: HandInput,
): Promise<Marked> {
  const to = person === null ? null : await findPerson(who, person);
  const marked = await mark(desk, kept, { personId: who.person.id }, steps, {
    kind: 'step.handed',
    says: to === null ? 'handed to nobody in particular' : `handed to ${to.name}`,
    values: { personId: to?.id ?? null },
  });
  if (to && to.id !== who.person.id) await tellReceiver(desk, to.id, who.person.name, steps, marked);
  return marked;
}

/** Whoever something is handed to hears of it, where they want mails at all. */
async function tellReceiver(
  desk: Desk,
  personId: string,
  by: string,
  { property, client, kind }: StepsMeant,
  { steps }: Marked,
): Promise<void> {
  const to = (await recipients(desk)).find((one) => one.personId === personId);
  if (!to || !desk.sendsMail) return;
  const where = property ?? client ?? 'several properties';
  const what = `${counted(steps, 'next step', 'next steps')} at ${where}${kind === undefined ? '' : ` (${kind.replaceAll('-', ' ')})`}`;
  const text = `${by} handed you ${what}.\n\n“yardbadge next --person me” lists what is yours; in the console, Next steps does, by your name.\n`;
  const subject = `${by} handed you ${what}`;
  const html = page(subject, `<p>${escaped(text).replaceAll('\n\n', '</p><p>')}</p>`);
  await desk.store.write((transaction) =>
    writeMessage(
      desk,
      { way: 'mail', personId, sentTo: to.email ?? '', subject, body: { text, html } },
      transaction,
    ),
  );
}

interface Change {
  readonly kind: string;
  /** What is done with the steps, without a full stop. */
  readonly says: string;
  readonly values: Partial<MarkValues>;
}

async function mark(
  desk: Desk,
  kept: Freshness,
  actor: Actor,
  { engines, ...narrow }: StepsMeant,
  { kind, says, values }: Change,
): Promise<Marked> {
  await kept.current();
  const { sql, values: asked } = await filterFor(desk, narrow, CONDITIONS);
  const at = engines?.map((ref) => engineIdOf(desk, ref)) ?? null;
  const filter: Filter = {
    sql: `kind <> 'none' ${sql} ${at === null ? '' : 'AND engine IN (SELECT value FROM json_each($engines))'}`,
    values: { ...asked, engines: JSON.stringify(at) },
  };
  const columns = Object.keys(values);
  return desk.store.write(async (transaction) => {
    const meant = await desk.store.select<{ propertyId: string; clientId: string; count: number }>(
      `SELECT propertyId, clientId, COUNT(*) AS count FROM standings WHERE ${filter.sql} GROUP BY propertyId`,
      filter.values,
      transaction,
    );
    const [only, second] = meant;
    if (!only) throw new Problem('no-such-step');
    const set = columns.map((column) => `${column} = excluded.${column}`).join(', ');
    await desk.store.run(
      `INSERT INTO step_marks (propertyId, engine, enrolmentId, kind, ${columns.join(', ')})
       SELECT propertyId, engine, ifnull(enrolmentId, ''), kind, ${columns.map((column) => `$${column}`).join(', ')}
         FROM standings WHERE ${filter.sql} ON CONFLICT DO UPDATE SET ${set}`,
      { ...filter.values, ...values },
      transaction,
    );
    const steps = meant.reduce((sum, { count }) => sum + count, 0);
    const property = second ? null : await PropertyRow.findByPk(only.propertyId, { transaction });
    const where = property ? property.handle : counted(meant.length, 'property', 'properties');
    const ofOne = meant.every(({ clientId }) => clientId === only.clientId) ? only.clientId : null;
    const what = narrow.kind === undefined ? '' : `, ${narrow.kind.replaceAll('-', ' ')}`;
    await note(desk, actor, transaction, {
      kind,
      says: `${counted(steps, 'next step', 'next steps')} at ${where}${what}: ${says}.`,
      ...(property ? { property } : {}),
      ...(ofOne === null ? {} : { clientId: ofOne }),
    });
    return { steps, properties: meant.length };
  });
}
