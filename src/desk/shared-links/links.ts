import { randomBytes } from 'node:crypto';
import type { MadeLink, NewSharedLink, Page, SharedLink, SharedUse } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { DAY, durationMs, HOUR } from '../../core/time/duration.js';
import { newId } from '../../store/ids.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { findClient } from '../context/client-refs.js';
import { cursorIn, cursorText } from '../context/cursor.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note, personNames } from '../context/journal.js';
import { EXACT, findProperty } from '../context/references.js';
import { findAllEnrolments } from '../context/enrolment-refs.js';
import { nameOf, namesOf } from '../context/names.js';
import { SENTENCES } from '../../core/sheet/sentences.js';
import { tokensIn, type SheetPart } from '../../core/sheet/sheet.js';
import { keepAsked } from '../sheet/requests.js';
import { subjectOf } from '../sheet/subject.js';
import { tokensOf } from '../sheet/tokens.js';
import { hashed } from '../people/persons.js';

/** A link as it is on record: of its secret only the SHA-256. */
export interface LinkValues {
  readonly id: string;
  readonly hash: string;
  readonly clientId: string;
  /** Null where it is for all of the client. */
  readonly propertyId: string | null;
  readonly word: string | null;
  readonly language: 'en' | 'de';
  /** JSON: identifiers of enrolments, and kinds of places, that it shows alone; null for all. */
  readonly enrolments: string | null;
  readonly places: string | null;
  readonly tells: number;
  readonly createdAt: string;
  readonly personId: string | null;
  readonly expiresAt: string;
  readonly endedAt: string | null;
  readonly how: 'ended' | 'expired' | null;
  readonly opened: number;
  readonly openedAt: string | null;
}

interface UseValues extends SharedUse {
  readonly linkId: string;
}

/** 160 random bits: nobody comes upon one by trying. */
const SECRET_BYTES = 20;
const USUALLY_LASTS = 14 * DAY;
const LASTS_LEAST = HOUR;
const LASTS_MOST = 366 * DAY;
/** Links that work at one time. */
const MOST_LINKS = 5_000;
const USES_SHOWN = 20;

/** Tells those who keep links in mind that there is another, or one less. */
export const LINKS_CHANGED = 'links';

/**
 * Makes a link to a sheet. Its address is told this once.
 * @param base where the service is, as people see it
 * @throws Problem
 */
export async function addLink(
  desk: Desk,
  actor: Actor,
  { property: ref, client, word, language = 'en', lasts, tells = true, enrolments, places }: NewSharedLink,
  base: string,
): Promise<MadeLink> {
  const property = ref === undefined ? null : await findProperty(ref, EXACT);
  const clientId = property?.clientId ?? (await findClient(client ?? '', EXACT)).id;
  const [open] = await desk.store.select<{ count: number }>(
    'SELECT COUNT(*) AS count FROM shared_links WHERE endedAt IS NULL',
  );
  if ((open?.count ?? 0) >= MOST_LINKS) throw new Problem('too-many-links', { most: MOST_LINKS });
  const secret = randomBytes(SECRET_BYTES).toString('base64url');
  const now = desk.clock.now();
  const { properties } = await subjectOf(property ? { property: property.id } : { client: clientId });
  const part: SheetPart = {
    enrolments: enrolments === undefined ? null : await enrolmentsOf(desk, enrolments, properties),
    places: places ?? null,
  };
  const row: LinkValues = {
    ...{ id: newId(), hash: hashed(secret), clientId, propertyId: property?.id ?? null },
    enrolments: part.enrolments === null ? null : JSON.stringify(part.enrolments),
    places: part.places === null ? null : JSON.stringify(part.places),
    ...{ word: word ?? null, language, tells: Number(tells), createdAt: now.toISOString() },
    ...{ personId: actor.personId, endedAt: null, how: null, opened: 0, openedAt: null },
    expiresAt: new Date(now.getTime() + lastsFor(lasts)).toISOString(),
  };
  const tokens = tokensIn(part, await tokensOf(desk, properties, language, SENTENCES[language]));
  await desk.store.write(async (transaction) => {
    await keepAsked(desk, tokens, transaction);
    await desk.store.insert('shared_links', [{ ...row }], transaction);
    await note(desk, actor, transaction, {
      kind: 'shared.made',
      says: `A link to the sheet was made${word === undefined ? '' : ` for “${word}”`}; it works until ${row.expiresAt.slice(0, 10)}.`,
      ...aboutOf(row, property),
    });
  });
  desk.events.emit(LINKS_CHANGED);
  const [link] = await view(desk, [row]);
  if (!link) throw new Error('what was just written is there');
  return { ...link, url: `${base.replace(/\/+$/u, '')}/shared/${secret}` };
}

/** What of a sheet a link shows. */
export function partOf({ enrolments, places }: Pick<LinkValues, 'enrolments' | 'places'>): SheetPart {
  return {
    enrolments: enrolments === null ? null : (JSON.parse(enrolments) as string[]),
    places: places === null ? null : (JSON.parse(places) as SheetPart['places']),
  };
}

/** The identifiers of enrolments that are named, all of them of the properties that a link is for. Throws Problem. */
async function enrolmentsOf(
  desk: Desk,
  refs: readonly string[],
  properties: readonly PropertyRow[],
): Promise<string[]> {
  const rows = await findAllEnrolments(desk, refs, EXACT);
  const foreign = rows.find(({ propertyId }) => !properties.some(({ id }) => id === propertyId));
  if (foreign) throw new Problem('not-on-the-sheet', { enrolment: await nameOf(desk, foreign.id) });
  return rows.map(({ id }) => id);
}

function lastsFor(lasts: string | undefined): number {
  if (lasts === undefined) return USUALLY_LASTS;
  try {
    const ms = durationMs(lasts);
    if (ms >= LASTS_LEAST && ms <= LASTS_MOST) return ms;
  } catch {
    // Said below, with what was expected.
  }
  throw new Problem('bad-lasts', { lasts });
}

/** What of a link a line of the journal is about. */
export function aboutOf(
  { clientId }: Pick<LinkValues, 'clientId'>,
  property: PropertyRow | null,
): { clientId: string; property?: PropertyRow } {
  return property ? { clientId, property } : { clientId };
}

export interface LinksQuery {
  readonly property?: string;
  readonly client?: string;
  readonly all?: boolean;
  readonly after?: string;
  readonly limit?: number;
}

/** Links, newest first. Throws Problem. */
export async function listLinks(desk: Desk, query: LinksQuery): Promise<Page<SharedLink>> {
  const { limit = 100 } = query;
  const property = query.property === undefined ? null : await findProperty(query.property);
  const client = query.client === undefined ? null : await findClient(query.client);
  const place = query.after === undefined ? null : cursorIn(query.after);
  const where = [
    ...(query.all === true ? [] : ['endedAt IS NULL AND expiresAt > $now']),
    // A link to all of a client shows this property, too.
    ...(property ? ['clientId = $clientId AND (propertyId = $propertyId OR propertyId IS NULL)'] : []),
    ...(client ? ['clientId = $clientId'] : []),
    ...(place ? ['(createdAt < $at OR (createdAt = $at AND id > $id))'] : []),
  ];
  const rows = await desk.store.select<LinkValues>(
    `SELECT * FROM shared_links ${where.length === 0 ? '' : `WHERE ${where.join(' AND ')}`} ORDER BY createdAt DESC, id LIMIT $most`,
    {
      ...{ now: nowText(desk), ...place, most: limit + 1 },
      clientId: property?.clientId ?? client?.id ?? null,
      propertyId: property?.id ?? null,
    },
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    items: await view(desk, shown),
    next: last && rows.length > limit ? cursorText({ at: last.createdAt, id: last.id }) : null,
  };
}

async function view(desk: Desk, rows: readonly LinkValues[]): Promise<SharedLink[]> {
  const parts = new Map(rows.map((row) => [row.id, partOf(row)]));
  const [clients, properties, names, uses, enrolments] = await Promise.all([
    ClientRow.findAll({ where: { id: rows.map(({ clientId }) => clientId) }, attributes: ['id', 'handle'] }),
    PropertyRow.findAll({
      where: { id: rows.flatMap(({ propertyId }) => propertyId ?? []) },
      attributes: ['id', 'handle'],
    }),
    personNames(rows.map(({ personId }) => personId)),
    usesOf(desk, rows),
    namesOf(
      desk.store,
      [...parts.values()].flatMap((part) => part.enrolments ?? []),
    ),
  ]);
  const handles = new Map([...clients, ...properties].map(({ id, handle }) => [id, handle]));
  const now = nowText(desk);
  return rows.map((row) => ({
    id: row.id,
    client: handles.get(row.clientId) ?? row.clientId,
    property: row.propertyId === null ? null : (handles.get(row.propertyId) ?? null),
    word: row.word,
    language: row.language,
    enrolments: parts.get(row.id)?.enrolments?.map((id) => enrolments.get(id) ?? id) ?? null,
    places:
      [...(parts.get(row.id)?.places ?? [])].length === 0 ? null : [...(parts.get(row.id)?.places ?? [])],
    tells: row.tells === 1,
    createdAt: row.createdAt,
    by: row.personId === null ? null : (names.get(row.personId) ?? null),
    expiresAt: row.expiresAt,
    state: row.how === 'ended' ? 'ended' : row.expiresAt <= now ? 'expired' : 'open',
    opened: row.opened,
    openedAt: row.openedAt,
    uses: uses.filter(({ linkId }) => linkId === row.id).map(({ at, kind, says }) => ({ at, kind, says })),
  }));
}

function usesOf({ store }: Desk, rows: readonly LinkValues[]): Promise<UseValues[]> {
  return store.select<UseValues>(
    `SELECT linkId, at, kind, says FROM (
       SELECT *, ROW_NUMBER() OVER (PARTITION BY linkId ORDER BY at DESC, id) AS place FROM shared_uses
        WHERE linkId IN (SELECT value FROM json_each($ids)))
      WHERE place <= $most ORDER BY at DESC`,
    { ids: JSON.stringify(rows.map(({ id }) => id)), most: USES_SHOWN },
  );
}

/** Has a link work no more. Throws Problem where none works by that identifier. */
export async function endLink(desk: Desk, actor: Actor, id: string): Promise<void> {
  const [row] = await desk.store.select<LinkValues>(
    'SELECT * FROM shared_links WHERE id = $id AND endedAt IS NULL',
    { id },
  );
  if (!row) throw new Problem('no-such-link', { ref: id });
  const property = row.propertyId === null ? null : await PropertyRow.findByPk(row.propertyId);
  await desk.store.write(async (transaction) => {
    await desk.store.run(
      `UPDATE shared_links SET endedAt = $now, how = 'ended' WHERE id = $id`,
      { id, now: nowText(desk) },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'shared.ended',
      says: `The link ${named(row)} works no more.`,
      ...aboutOf(row, property),
    });
  });
  desk.events.emit(LINKS_CHANGED);
}

/** How a link is told from others in a sentence. */
export function named({ word, createdAt }: Pick<LinkValues, 'word' | 'createdAt'>): string {
  return word === null ? `of ${createdAt.slice(0, 10)}` : `for “${word}”`;
}
