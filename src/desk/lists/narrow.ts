import type { Desk } from '../context/desk.js';
import { engineIdOf } from '../context/engine-ref.js';
import type { Freshness } from './freshness.js';
import { findClient } from '../context/client-refs.js';
import { holdersOf } from '../tokens/whose.js';
import { findProperty } from '../context/references.js';
import { DocumentText } from './document-text.js';
import { given } from '../../api/given.js';

/** What a list of what is kept ready can be narrowed to. */
export interface Narrow {
  readonly client?: string;
  readonly property?: string;
  /** An engine's id. */
  readonly engine?: string;
  readonly badge?: string;
  /** To whom a step was handed: an identifier, or empty for nobody. */
  readonly person?: string;
  /** A kind of step. */
  readonly kind?: string;
  readonly acts?: string;
  /** Whether something is to be done: `yes` or `no`. */
  readonly work?: string;
  /** The state of a sitemap. */
  readonly state?: string;
  /** A part of a handle, an address, a client's name or, in next steps, of what is said. */
  readonly match?: string;
}

/** Narrows to what was handed to nobody. */
export const NO_PERSON = '';

export interface PageOf extends Narrow {
  readonly after?: string;
  readonly limit?: number;
}

const USUAL_PAGE = 100;

/** Where a page begins, and how much of it there is. */
export function placeOf({ after = '', limit = USUAL_PAGE }: PageOf): { after: string; limit: number } {
  return { after, limit };
}

/** How one narrowing is said in SQL, and how its value is put. */
interface Condition {
  readonly sql: (value: string) => string;
  readonly put: (value: string) => string;
}

export type Conditions = Readonly<Partial<Record<keyof Narrow, Condition>>>;

/** The column has this value. */
export function equals(column: string): Condition {
  return { sql: (value) => `${column} = ${value}`, put: (value) => value };
}

/** The column has this among its words, which stand between blanks. */
export function holds(column: string): Condition {
  return { sql: (value) => `instr(${column}, ${value})`, put: (value) => ` ${value} ` };
}

/** The column has this somewhere in its text, which is in lower case. */
export function contains(column: string): Condition {
  return {
    sql: (value) => `${column} LIKE ${value} ESCAPE '\\'`,
    put: (value) =>
      `%${value
        .trim()
        .toLowerCase()
        .replace(/[\\%_]/gu, '\\$&')}%`,
  };
}

/** Conditions to go behind others, with their values. */
export interface Filter {
  readonly sql: string;
  readonly values: Readonly<Record<string, string>>;
}

/** The filter that a narrowing comes to. Throws Problem for a client, property or engine that is not there. */
export async function filterFor(desk: Desk, narrow: Narrow, conditions: Conditions): Promise<Filter> {
  const { client, property, badge, ...plain } = narrow;
  const engine = narrow.engine === undefined ? undefined : engineIdOf(desk, narrow.engine);
  const wanted: { -readonly [Name in keyof Narrow]: Narrow[Name] } = {
    ...plain,
    ...(client === undefined ? {} : { client: (await findClient(client)).id }),
    ...(property === undefined ? {} : { property: await propertyId(desk, property) }),
    ...given({ engine }),
    // A badge at an engine is one word of the two.
    ...(badge === undefined ? {} : { badge: engine === undefined ? badge : `${engine}:${badge}` }),
  };
  const sql: string[] = [];
  const values: Record<string, string> = {};
  // A token that is pasted there finds whose it is.
  const holders = wanted.match === undefined ? [] : await holdersOf(desk, wanted.match);
  if (holders.length > 0) {
    sql.push('AND propertyId IN (SELECT value FROM json_each($holders))');
    values['holders'] = JSON.stringify(holders);
    delete wanted.match;
  }
  for (const [name, condition] of Object.entries(conditions) as [keyof Narrow, Condition][]) {
    const value = wanted[name];
    if (value === undefined || (value === '' && name !== 'person')) continue;
    sql.push(`AND ${condition.sql(`$${name}`)}`);
    values[name] = condition.put(value);
  }
  return { sql: sql.join(' '), values };
}

/** The identifier of a property, most often given as a whole handle. Throws Problem. */
async function propertyId({ store }: Desk, ref: string): Promise<string> {
  const [known] = await store.select<{ id: string }>(
    'SELECT id FROM properties WHERE (handle = $ref OR id = $ref) AND archivedAt IS NULL',
    { ref },
  );
  return known?.id ?? (await findProperty(ref)).id;
}

/** A table of documents that is shown page by page, in the order of a column in which no two rows are alike. */
export interface Shelf {
  readonly table: string;
  readonly order: string;
}

/** One document, with its place in the order. */
export interface Shelved {
  readonly place: string;
  readonly document: string;
}

/** Documents behind a place, in their order: one more than is asked for, to see whether there are more. */
export async function readShelf(
  { store }: Desk,
  { table, order }: Shelf,
  { sql, values }: Filter,
  { after, limit }: { readonly after: string; readonly limit: number },
): Promise<Shelved[]> {
  // Two steps, so that what is filtered out costs no more than its line in an index.
  return store.select(
    `SELECT ${order} AS place, document FROM ${table} WHERE ${order} IN
       (SELECT ${order} FROM ${table} WHERE ${order} > $after ${sql} ORDER BY ${order} LIMIT ${String(limit + 1)})
     ORDER BY ${order}`,
    { ...values, after },
  );
}

/** A page of what was found, of which one more was read than is shown, to see whether there are more. */
export function pageOf(
  found: readonly Shelved[],
  limit: number,
): { items: DocumentText[]; next: string | null } {
  const shown = found.slice(0, limit);
  return {
    items: shown.map(({ document }) => new DocumentText(document)),
    next: found.length > limit ? (shown.at(-1)?.place ?? null) : null,
  };
}

/** How many documents of a table there are with a filter, by the value of a column. */
export async function countBy(
  desk: Desk,
  kept: Freshness,
  table: string,
  column: string,
  { sql, values }: Filter,
): Promise<Record<string, number>> {
  const counts = await kept.countedOnce(`${table} ${column} ${sql} ${JSON.stringify(values)}`, async () => {
    const rows = await desk.store.select<{ value: string; count: number }>(
      `SELECT ${column} AS value, COUNT(*) AS count FROM ${table} WHERE true ${sql} GROUP BY ${column}`,
      values,
    );
    return Object.fromEntries(rows.map(({ value, count }) => [value, count]));
  });
  return { ...counts };
}
