import Joi from 'joi';
import type { HandoverEnrolment, HolderShown, JobResult } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { findClient } from '../context/client-refs.js';
import { engineOf, nowText, type Actor, type Desk } from '../context/desk.js';
import { findEnrolments } from '../context/enrolment-refs.js';
import { note } from '../context/journal.js';
import { EXACT } from '../context/references.js';
import { enrolmentValue } from '../engines/answers.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';

interface HoldersInput {
  readonly enrolmentId: string;
}

interface HoldersValues {
  readonly enrolmentId: string;
  readonly at: string;
  /** JSON. */
  readonly items: string;
  /** What somebody noted by hand. */
  readonly says: string | null;
  readonly personId: string | null;
}

/** The enrolments of a client’s properties, with what is recorded of each. */
export async function enrolmentsOfClient(desk: Desk, clientId: string): Promise<EnrolmentFacts[]> {
  const properties = await PropertyRow.findAll({ where: { clientId }, attributes: ['id'] });
  const rows = await EnrolmentRow.findAll({
    where: { propertyId: properties.map(({ id }) => id), endedAt: null },
    order: ['engine', 'propertyId', 'reach', 'id'],
  });
  return enrolmentFacts(
    desk,
    rows.filter(({ engine }) => desk.book.profiles.has(engine)),
  );
}

/** One piece for each held enrolment of a client at an engine that can be asked. Throws Problem where there is none. */
export async function holdersPieces(desk: Desk, ref: string): Promise<NewPiece<HoldersInput>[]> {
  const client = await findClient(ref);
  const held = (await enrolmentsOfClient(desk, client.id)).filter(
    ({ standing, profile }) =>
      profile.worked.how === 'link' && (standing.badge === 'held' || standing.badge === 'slipping'),
  );
  if (held.length === 0) throw new Problem('nobody-to-ask', { title: client.name });
  return held.map(({ row, name }) => ({
    subject: name,
    input: { enrolmentId: row.id },
    engine: row.engine,
  }));
}

async function runHolders(desk: Desk, piece: Piece<HoldersInput>): Promise<JobResult> {
  const row = await EnrolmentRow.findByPk(piece.input.enrolmentId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  const outcome = await (await engineOf(desk, row)).holders(row.ref);
  const items = await enrolmentValue(desk, piece.actor, facts, outcome);
  const others = items.filter(({ own }) => !own);
  await keep(desk, piece.actor, facts, { items: [...items], says: null });
  const { title } = facts.profile;
  return {
    says:
      others.length === 0
        ? `${title} knows of nobody else who holds it.`
        : `${title} names ${others.map(({ account }) => account).join(', ')} beside us.`,
    stops: false,
    enrolment: facts.name,
  };
}

/** Notes who holds it at an engine that cannot be asked. Throws Problem. */
export async function noteHolders(desk: Desk, actor: Actor, ref: string, says: string): Promise<void> {
  const [row, second] = await findEnrolments(desk, ref, EXACT);
  if (!row || second)
    throw new Problem('ambiguous', {
      ref,
      what: 'more than one enrolment',
      one: 'one, such as tea@brindle:address',
    });
  await keep(desk, actor, await factsOf(desk, row), { items: [], says });
}

async function keep(
  desk: Desk,
  actor: Actor,
  { row, name }: EnrolmentFacts,
  { items, says }: { readonly items: readonly HolderShown[]; readonly says: string | null },
): Promise<void> {
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const values: HoldersValues = {
    ...{ enrolmentId: row.id, at: nowText(desk), items: JSON.stringify(items), says },
    personId: actor.personId,
  };
  await desk.store.write(async (transaction) => {
    await desk.store.run('DELETE FROM holders WHERE enrolmentId = $id', { id: row.id }, transaction);
    await desk.store.insert('holders', [{ ...values }], transaction);
    await note(desk, actor, transaction, {
      kind: 'holders',
      says: `Who holds ${name}: ${says ?? items.map(({ account }) => account).join(', ')}.`,
      property,
      enrolmentId: row.id,
    });
  });
}

/** What is known of who holds enrolments, by identifier of the enrolment. */
export async function knownHolders(
  { store }: Desk,
  ids: readonly string[],
): Promise<ReadonlyMap<string, NonNullable<HandoverEnrolment['holders']>>> {
  const rows = await store.select<HoldersValues>(
    'SELECT * FROM holders WHERE enrolmentId IN (SELECT value FROM json_each($ids))',
    { ids: JSON.stringify(ids) },
  );
  return new Map(
    rows.map(({ enrolmentId, at, items, says }) => [
      enrolmentId,
      { at, items: JSON.parse(items) as HolderShown[], says },
    ]),
  );
}

export const holdersWork = anyWork<HoldersInput>({
  kind: 'holders',
  input: Joi.object<HoldersInput, true>({ enrolmentId: Joi.string().required() }),
  run: (desk, piece) => runHolders(desk, piece),
});
