import Joi from 'joi';
import { counted } from '../../api/plural.js';
import type { JobResult } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { EXACT, findProperty } from '../context/references.js';
import type { SignedIn } from '../people/persons.js';
import { findArchivedClient } from '../clients/archive.js';
import { endedAbout, nowText, type Desk } from '../context/desk.js';
import { tidyShelves } from '../contents/shelves.js';
import { note } from '../context/journal.js';
import { handleGone, putAway, takenOut } from '../context/put-away.js';
import { DELETION } from '../jobs/of-properties.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { handoverOf } from './show.js';

interface DeletionInput {
  readonly clientId: string;
  /** The one property that is deleted; all of the client where none is named. */
  readonly propertyId?: string;
}

const PROPERTIES =
  '(SELECT id FROM properties WHERE clientId = $clientId AND ($propertyId IS NULL OR id = $propertyId))';
const OF_PROPERTY = `propertyId IN ${PROPERTIES}`;
const OF_ENROLMENT = `enrolmentId IN (SELECT id FROM enrolments WHERE ${OF_PROPERTY})`;
const SITEMAPS = `(SELECT id FROM sitemaps WHERE ${OF_PROPERTY})`;
const OF_SITEMAP = `sitemapId IN ${SITEMAPS}`;
/** What is of the client as a whole, and stays where one property is deleted. */
const OF_CLIENT = '($propertyId IS NULL AND clientId = $clientId)';
const SUMS = `SELECT f.value->>'sum' FROM made_versions v, json_each(v.files) f WHERE v.propertyId`;

/**
 * What a client's records are: each table with the condition by which rows are of the client, those before others that they name. Jobs and
 * messages go by themselves after their time (`history/tidying`); the journal is the agency's own record of what it did, and keeps its lines: the
 * rows that they name stay, without a word in them.
 */
const RECORDS: readonly { readonly table: string; readonly where: string; readonly key?: string }[] = [
  { table: 'evidence', where: `checkId IN (SELECT id FROM checks WHERE ${OF_ENROLMENT})` },
  ...['claims', 'ownerships', 'page_asks', 'checks', 'tokens'].map((table) => ({
    table,
    where: OF_ENROLMENT,
  })),
  { table: 'holders', where: OF_ENROLMENT, key: 'enrolmentId' },
  {
    table: 'engine_readings',
    where: `submissionId IN (SELECT id FROM submissions WHERE ${OF_SITEMAP})`,
  },
  { table: 'submissions', where: OF_SITEMAP },
  { table: 'enrolments', where: OF_PROPERTY },
  { table: 'reading_sets', where: `readingId IN (SELECT id FROM readings WHERE ${OF_SITEMAP})` },
  ...['readings', 'address_chunks', 'reading_children', 'insides', 'sitemap_rows'].map((table) => ({
    table,
    where: OF_SITEMAP,
  })),
  { table: 'sitemaps', where: OF_PROPERTY },
  {
    table: 'made_pages',
    where: `makingId IN (SELECT id FROM makings WHERE ${OF_PROPERTY})`,
    key: 'makingId, seq',
  },
  // What another client's sitemap holds as well stays.
  {
    table: 'made_files',
    where: `sum IN (${SUMS} IN ${PROPERTIES}) AND sum NOT IN (${SUMS} NOT IN ${PROPERTIES})`,
  },
  { table: 'carried', where: `placeId IN (SELECT id FROM carry_places WHERE ${OF_PROPERTY})` },
  { table: 'watch_tries', where: `id IN (SELECT id FROM watched WHERE ${OF_PROPERTY})` },
  { table: 'step_marks', where: OF_PROPERTY, key: 'propertyId, engine, enrolmentId, kind' },
  ...[
    ...['makings', 'made_versions', 'recipes', 'robots_kept', 'carry_places', 'hosts', 'variants'],
    ...['variant_findings', 'moves', 'watched', 'standings', 'entries', 'yard_rows'],
  ].map((table) => ({ table, where: OF_PROPERTY })),
  ...['pauses', 'cases'].map((table) => ({ table, where: `${OF_PROPERTY} OR ${OF_CLIENT}` })),
  {
    table: 'letter_properties',
    where: `letterId IN (SELECT id FROM letters WHERE ${OF_CLIENT}) OR ${OF_PROPERTY}`,
    key: 'propertyId, letterId',
  },
  ...['shared_uses', 'link_news'].map((table) => ({
    table,
    where: `linkId IN (SELECT id FROM shared_links WHERE ${OF_CLIENT} OR ${OF_PROPERTY})`,
  })),
  ...['news', 'shared_links', 'contacts'].map((table) => ({
    table,
    where: `${OF_CLIENT} OR ${OF_PROPERTY}`,
  })),
  ...['letters', 'client_reports', 'reports', 'hooks'].map((table) => ({
    table,
    where: OF_CLIENT,
  })),
  {
    table: 'handover_ticks',
    where: `handoverId IN (SELECT id FROM handovers WHERE ${OF_CLIENT})`,
    key: 'handoverId, item',
  },
  { table: 'handovers', where: OF_CLIENT },
];

/** What is left of a property: an address that is nobody's (RFC 2606 §2). */
const NOTHING_OF_IT = {
  ...{ address: 'https://deleted.invalid/', host: 'deleted.invalid', facts: {}, access: {}, rhythms: {} },
  ...{ frontDoor: null, frontDoorSays: null, frontDoorAt: null, siteSeen: null, nameEnds: null },
  ...{ variantsAt: null, spellings: null },
};

/** Rows that go in one transaction, so that no writer waits long. */
const AT_ONCE = 1_000;

/**
 * One piece that deletes the records of a client in the archive.
 * @param anyway although they are to be kept for longer
 * @throws Problem
 */
export async function deletionPiece(
  desk: Desk,
  ref: string,
  anyway: boolean,
): Promise<NewPiece<DeletionInput>> {
  const client = await findArchivedClient(ref);
  const day = (await handoverOf(desk, client.id))?.deleteOn ?? null;
  if (!anyway && (day === null || day > nowText(desk)))
    throw new Problem('deletion-not-due', {
      client: client.name,
      until: day === null ? 'no day was said for it' : `they are to be kept until ${day.slice(0, 10)}`,
    });
  return { subject: client.id, input: { clientId: client.id } };
}

/**
 * One piece that deletes a property that was taken on by mistake: by anybody as long as nothing was done with it, else by a lead who
 * says so.
 * @throws Problem
 */
export async function propertyDeletionPiece(
  desk: Desk,
  { person }: SignedIn,
  ref: string,
  anyway: boolean,
): Promise<NewPiece<DeletionInput>> {
  const property = await findProperty(ref, EXACT);
  const done = await doneWith(desk, property.id);
  if (done.length > 0 && person.role !== 'lead')
    throw new Problem('not-allowed', { role: 'lead', person: person.name, own: person.role });
  if (done.length > 0 && !anyway)
    throw new Problem('property-in-use', { property: property.handle, what: done.join(', ') });
  return {
    subject: property.handle,
    input: { clientId: property.clientId, propertyId: property.id },
  };
}

/** What there is of a property besides itself, in words; empty where nothing was done with it. */
async function doneWith({ store }: Desk, propertyId: string): Promise<string[]> {
  const counts = await Promise.all(
    (
      [
        ['enrolments', 'enrolment', 'enrolments'],
        ['sitemaps', 'sitemap', 'sitemaps'],
        ['letter_properties', 'letter', 'letters'],
        ['carry_places', 'place', 'places'],
        ['makings', 'gathering', 'gatherings'],
      ] as const
    ).map(async ([table, one, many]) => {
      const [row] = await store.select<{ count: number }>(
        `SELECT COUNT(*) AS count FROM ${table} WHERE propertyId = $propertyId`,
        { propertyId },
      );
      return row && row.count > 0 ? [counted(row.count, one, many)] : [];
    }),
  );
  return counts.flat();
}

/** Deletes them, a little at a time. Begun again, it goes on where it was. */
async function runDeletion(desk: Desk, { input, actor }: Piece<DeletionInput>): Promise<JobResult> {
  const { clientId, propertyId = null } = input;
  const client = await ClientRow.findByPk(clientId);
  if (!client || client.handle === handleGone(client))
    return { says: 'They are deleted already.', stops: false };
  // Whoever took it out of the archive meanwhile wants it kept.
  if (propertyId === null && client.archivedAt == null)
    throw new Problem('not-archived', { what: client.name });
  const which = propertyId === null ? { clientId } : { id: propertyId };
  const properties = await putAllAway(desk, which);
  const [only] = properties;
  await endedAbout(
    desk,
    properties.map(({ id }) => id),
  );
  let rows = 0;
  for (const { table, where, key = 'rowid' } of RECORDS)
    for (let went = AT_ONCE; went >= AT_ONCE; rows += went)
      went = await desk.store.writeQuietly((transaction) =>
        desk.store.change(
          `DELETE FROM ${table} WHERE (${key}) IN (SELECT ${key} FROM ${table} WHERE ${where} LIMIT ${String(AT_ONCE)})`,
          { clientId, propertyId },
          transaction,
        ),
      );
  const says =
    propertyId === null
      ? `The records of ${client.name} were deleted: ${counted(properties.length, 'property', 'properties')}, ${counted(rows, 'row', 'rows')} in all.`
      : `${only ? takenOut(only) : 'The property'} was deleted, with ${counted(rows, 'row', 'rows')} of records.`;
  await desk.store.write(async (transaction) => {
    // What was written since its table was emptied, as by deriving what the deletion itself had marked.
    for (const { table, where } of RECORDS)
      await desk.store.run(`DELETE FROM ${table} WHERE ${where}`, { clientId, propertyId }, transaction);
    for (const property of await PropertyRow.findAll({ where: which, transaction }))
      await property.update(
        {
          ...{ handle: handleGone(property), archivedAt: property.archivedAt ?? nowText(desk) },
          ...NOTHING_OF_IT,
        },
        { transaction },
      );
    if (propertyId === null)
      await client.update(
        { handle: handleGone(client), name: 'a client that was deleted', contact: null, audience: [] },
        { transaction },
      );
    await note(desk, actor, transaction, {
      kind: propertyId === null ? 'client.deleted' : 'property.deleted',
      says,
      clientId,
    });
  });
  await tidyShelves(desk);
  await desk.store.wipe();
  return { says, stops: false };
}

/** Nothing is derived or looked at any more of what is about to be deleted. */
function putAllAway(
  { store, clock }: Desk,
  which: { clientId: string } | { id: string },
): Promise<PropertyRow[]> {
  return store.writeQuietly(async (transaction) => {
    const properties = await PropertyRow.findAll({ where: which, transaction });
    for (const property of properties)
      if (property.archivedAt === null)
        await property.update(
          { ...putAway(property), archivedAt: clock.now().toISOString() },
          { transaction },
        );
    return properties;
  });
}

export const deletionWork = anyWork<DeletionInput>({
  kind: DELETION,
  lane: 'long',
  input: Joi.object<DeletionInput, true>({ clientId: Joi.string().required(), propertyId: Joi.string() }),
  run: runDeletion,
});
