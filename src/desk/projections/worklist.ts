import { Problem } from '../../api/problems.js';
import type { WorkEntry, Worklist } from '../../api/documents.js';
import { enrolMany, inOrderOfHarm, placeInOrder } from '../../core/worklist/step-groups.js';
import { UNASSIGNED } from '../../core/worklist/assignment.js';
import { makeStep } from '../../core/worklist/step.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import type { Desk } from '../context/desk.js';
import { personNames } from '../context/journal.js';
import { findPerson, type SignedIn } from '../people/persons.js';
import type { Projections } from './projections.js';
import {
  contains,
  countBy,
  equals,
  filterFor,
  NO_PERSON,
  holds,
  pageOf,
  placeOf,
  readShelf,
  type Conditions,
  type Filter,
  type PageOf,
  type Shelved,
} from '../lists/narrow.js';
import type { Ready } from '../lists/document-text.js';

const CONDITIONS: Conditions = {
  client: equals('clientId'),
  property: equals('propertyId'),
  engine: holds('engines'),
  badge: holds('badges'),
  kind: equals('kind'),
  acts: equals('acts'),
  person: equals('personId'),
  match: contains('words'),
};

/** As above for single standings, of which those without an enrolment are gathered by engine. */
const ENROL_CONDITIONS: Conditions = {
  client: equals('clientId'),
  engine: equals('engine'),
  kind: equals('kind'),
  acts: equals('acts'),
  person: equals("ifnull(personId, '')"),
  match: contains('handle'),
};

/** How the place of an entry begins, as `placeInOrder` makes it: harm, then time. */
const PLACE = /^\d\d \d{4}-\d\d-\d\dT/u;

/**
 * What can be done or is waited for, the worst and oldest harm first. One cause at one property is one entry; of all properties
 * together, one engine to enrol with is one, however many of them want it.
 */
export async function readWorklist(
  desk: Desk,
  kept: Projections,
  who: SignedIn,
  asked: PageOf,
): Promise<Ready<Worklist>> {
  const query = await byPerson(who, asked);
  await kept.current();
  const { after, limit } = placeOf(query);
  if (after !== '' && !PLACE.test(after)) throw new Problem('bad-cursor');
  const filter = await filterFor(desk, query, CONDITIONS);
  const isOne = query.property !== undefined;
  const alone: Filter = isOne ? filter : { ...filter, sql: `AND kind <> 'enrol' ${filter.sql}` };
  const found = await readShelf(desk, { table: 'entries', order: 'place' }, alone, { after, limit });
  const gathered = isOne || query.badge !== undefined ? [] : await toEnrol(desk, kept, query);
  const all = [...found, ...gathered.filter(({ place }) => place > after)].sort((a, b) =>
    a.place < b.place ? -1 : 1,
  );
  const counts = await countBy(desk, kept, 'entries', 'kind', alone);
  if (gathered.length > 0) counts['enrol'] = gathered.length;
  return { ...pageOf(all, limit), counts: inOrderOfHarm(counts) };
}

/** The person that a list is narrowed to, by her identifier. Throws Problem. */
async function byPerson(who: SignedIn, query: PageOf): Promise<PageOf> {
  const { person } = query;
  if (person === undefined) return query;
  return { ...query, person: person === NOBODY ? NO_PERSON : (await findPerson(who, person)).id };
}
const NOBODY = 'nobody';

/** Of properties that are told as one entry so many are named. */
const MOST_NAMED = 100;

interface ToEnrol {
  readonly engine: string;
  readonly count: number;
  readonly since: string;
  /** Of the property that has waited longest. */
  readonly propertyId: string;
  /** To whom all of them were handed; null where not to one and the same. */
  readonly personId: string | null;
}

/** For each engine, all properties that are to be enrolled with it, as one entry. */
async function toEnrol(desk: Desk, kept: Projections, query: PageOf): Promise<Shelved[]> {
  const { sql, values } = await filterFor(desk, query, ENROL_CONDITIONS);
  return kept.countedOnce(`enrol ${sql} ${JSON.stringify(values)}`, async () => {
    // Of a group with MIN, SQLite gives the other columns of the row that has it.
    const groups = await desk.store.select<ToEnrol>(
      `SELECT engine, COUNT(*) AS count, MIN(since) AS since, propertyId,
          iif(MIN(ifnull(personId, '')) = MAX(ifnull(personId, '')), personId, NULL) AS personId
         FROM standings WHERE kind = 'enrol' AND putOff IS NULL ${sql} GROUP BY engine`,
      values,
    );
    const properties = await PropertyRow.findAll({ where: { id: groups.map((one) => one.propertyId) } });
    const clients = await ClientRow.findAll({ where: { id: properties.map(({ clientId }) => clientId) } });
    const names = await personNames(groups.map(({ personId }) => personId));
    const named = await desk.store.select<{ engine: string; handle: string }>(
      `SELECT engine, handle FROM (SELECT engine, handle, since, ROW_NUMBER() OVER (PARTITION BY engine ORDER BY since, handle) AS nth
         FROM standings WHERE kind = 'enrol' AND putOff IS NULL ${sql}) WHERE nth <= ${String(MOST_NAMED)} ORDER BY engine, nth`,
      values,
    );
    return groups.flatMap((group): Shelved[] => {
      const property = properties.find(({ id }) => id === group.propertyId);
      const client = clients.find(({ id }) => id === property?.clientId);
      const handles = named.filter(({ engine }) => engine === group.engine).map(({ handle }) => handle);
      return property && client ? [shelved(desk, group, { property, client, names, handles })] : [];
    });
  });
}

function shelved(
  desk: Desk,
  { engine, count, since, personId }: ToEnrol,
  {
    property,
    client,
    names,
    handles,
  }: {
    readonly property: PropertyRow;
    readonly client: ClientRow;
    readonly names: ReadonlyMap<string, string>;
    readonly handles: string[];
  },
): Shelved {
  const title = desk.book.titleOf(engine);
  const { kind, says, acts } = makeStep(
    { kind: 'enrol', template: enrolMany(property.handle, count, title), since: new Date(since) },
    title,
  );
  const entry: WorkEntry = {
    property: {
      id: property.id,
      handle: property.handle,
      client: { id: client.id, handle: client.handle, name: client.name },
    },
    properties: count,
    ...(count > 1 ? { handles } : {}),
    engines: [{ id: engine, title }],
    enrolments: [],
    step: { kind, says, acts, since, until: null },
    person: personId === null ? null : (names.get(personId) ?? null),
    putOff: null,
  };
  const place = placeInOrder({ kind, since: new Date(since), mark: UNASSIGNED }, '', engine);
  return { place, document: JSON.stringify(entry) };
}

/** The properties that are to be enrolled with an engine, by identifier: what one entry for many stands for. */
export async function propertiesToEnrol(
  desk: Desk,
  kept: Projections,
  narrow: { readonly engine: string; readonly client?: string },
): Promise<string[]> {
  await kept.current();
  const { sql, values } = await filterFor(desk, narrow, ENROL_CONDITIONS);
  const rows = await desk.store.select<{ propertyId: string }>(
    `SELECT propertyId FROM standings WHERE kind = 'enrol' AND putOff IS NULL ${sql} ORDER BY handle`,
    values,
  );
  return rows.map(({ propertyId }) => propertyId);
}
