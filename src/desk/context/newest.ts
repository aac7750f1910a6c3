import type { Store } from '../../store/store.js';

/** The newest row of each group, for groups with the given ids, found by the table's index. Table and columns are ours, never input. */
export async function newest<Row extends object>(
  store: Store,
  table: string,
  group: string,
  order: string,
  ids: readonly string[],
): Promise<Row[]> {
  if (ids.length === 0) return [];
  return store.select<Row>(
    `SELECT one.* FROM json_each($ids) AS wanted JOIN ${table} AS one ON one.rowid =
       (SELECT n.rowid FROM ${table} AS n WHERE n.${group} = wanted.value ORDER BY n.${order} DESC, n.rowid DESC LIMIT 1)`,
    { ids: JSON.stringify([...new Set(ids)]) },
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
