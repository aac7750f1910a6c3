import type { Store } from '../store/store.js';

/** The newest row of each group, for groups with the given ids. Table and columns are ours, never input. */
export async function newest<Row extends object>(
  store: Store,
  table: string,
  group: string,
  order: string,
  ids: readonly string[],
): Promise<Row[]> {
  if (ids.length === 0) return [];
  const first = group.split(',')[0] ?? group;
  return store.select<Row>(
    `SELECT * FROM (SELECT *, ROW_NUMBER() OVER (PARTITION BY ${group} ORDER BY ${order} DESC, rowid DESC) AS nth
       FROM ${table} WHERE ${first} IN (:ids)) WHERE nth = 1`,
    { ids },
  );
}

/** Rows by a key of theirs. */
export function by<Row>(rows: readonly Row[], key: (row: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) groups.set(key(row), [...(groups.get(key(row)) ?? []), row]);
  return groups;
}

/** A row as the database gives it, without its model. */
export type Raw<Row> = { [Key in keyof Row]: Row[Key] };
