import type { Derived } from './derive.js';

/** A row as it is kept; each has the property that it is of. */
export type ProjectionRow = Readonly<Record<string, string | number | null>>;

export interface ProjectionTable {
  readonly table: string;
  /** The column that tells its rows apart. */
  readonly key: string;
  readonly rowsOf: (derived: Derived | undefined) => readonly ProjectionRow[];
}

/** The tables in which it is kept ready where things stand. */
export const PROJECTION_TABLES: readonly ProjectionTable[] = [
  { table: 'standings', key: 'id', rowsOf: (one) => plain(one?.standings) },
  { table: 'entries', key: 'place', rowsOf: (one) => plain(one?.entries) },
  { table: 'yard_rows', key: 'propertyId', rowsOf: (one) => plain(one?.yard) },
  { table: 'sitemap_rows', key: 'sitemapId', rowsOf: (one) => plain(one?.sitemaps) },
  { table: 'watched', key: 'id', rowsOf: (one) => plain(one?.watched) },
];

function plain(rows: readonly object[] = []): ProjectionRow[] {
  return rows.map((row) => ({ ...row }) as ProjectionRow);
}
