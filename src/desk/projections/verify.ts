import type { Verification } from '../../api/documents.js';
import { PropertyRow } from '../../store/models/clients.js';
import type { Desk } from '../context/desk.js';
import { derive } from './derive.js';
import type { Projections } from './projections.js';
import { PROJECTION_TABLES, type ProjectionRow, type ProjectionTable } from './projection-tables.js';

const AT_ONCE = 50;
/** Differences that are named one by one. */
const MOST_NAMED = 200;

type Difference = Verification['differing'][number];

/**
 * Derives everything anew from the facts, and compares it with what is kept ready, row by row. What is written meanwhile is no
 * difference: what is marked as stale by then is not compared.
 */
export async function verifyRecords(desk: Desk, kept: Projections): Promise<Verification> {
  const before = desk.store.writes + desk.store.lateWrites;
  await kept.refresh();
  const properties = await PropertyRow.findAll({ attributes: ['id', 'handle'], order: ['id'], raw: true });
  const differing: Difference[] = [];
  let rows = 0;
  for (let from = 0; from < properties.length; from += AT_ONCE) {
    const some = properties.slice(from, from + AT_ONCE);
    const derived = await derive(
      desk,
      some.map(({ id }) => id),
    );
    const found: (Difference & { readonly propertyId: string })[] = [];
    for (const table of PROJECTION_TABLES) {
      const keptRows = await keptOf(desk, table, some);
      for (const { id, handle } of some) {
        const own = keptRows.filter(({ propertyId }) => propertyId === id);
        rows += own.length;
        for (const one of differences(table, handle, own, table.rowsOf(derived.get(id))))
          found.push({ ...one, propertyId: id });
      }
    }
    const late = await staleAmong(desk, found);
    for (const { propertyId, ...one } of found) if (!late.has(propertyId)) differing.push(one);
    // Something was written in between: what was compared may be of two times, so that it is looked at again.
    if (differing.length > 0 && desk.store.writes + desk.store.lateWrites !== before)
      return verifyRecords(desk, kept);
  }
  return {
    properties: properties.length,
    rows,
    damage: await damageIn(desk),
    orphans: await orphansIn(desk),
    differing: differing.slice(0, MOST_NAMED),
  };
}

/** What SQLite finds wrong with its file (https://sqlite.org/pragma.html#pragma_integrity_check). */
async function damageIn({ store }: Desk): Promise<string[]> {
  const rows = await store.select<{ integrity_check: string }>('PRAGMA integrity_check(20)');
  return rows.map((row) => row.integrity_check).filter((says) => says !== 'ok');
}

/** Rows whose foreign keys lead nowhere, by table. */
async function orphansIn({ store }: Desk): Promise<Verification['orphans']> {
  return store.select(
    `SELECT "table", parent AS "of", count(*) AS rows FROM pragma_foreign_key_check() GROUP BY "table", parent ORDER BY "table", parent`,
  );
}

/** Properties of which something was written since they were derived: they are late, and not wrong. */
async function staleAmong(
  { store }: Desk,
  found: readonly { readonly propertyId: string }[],
): Promise<ReadonlySet<string>> {
  const ids = [...new Set(found.map(({ propertyId }) => propertyId))];
  const rows = await store.select<{ propertyId: string }>(
    'SELECT propertyId FROM stale WHERE propertyId IN (SELECT value FROM json_each($ids))',
    { ids: JSON.stringify(ids) },
  );
  return new Set(rows.map(({ propertyId }) => propertyId));
}

function keptOf(
  { store }: Desk,
  { table }: ProjectionTable,
  some: readonly { readonly id: string }[],
): Promise<ProjectionRow[]> {
  return store.select(`SELECT * FROM ${table} WHERE propertyId IN (SELECT value FROM json_each($ids))`, {
    ids: some.map(({ id }) => id),
  });
}

function differences(
  { table, key }: ProjectionTable,
  property: string,
  kept: readonly ProjectionRow[],
  derived: readonly ProjectionRow[],
): Difference[] {
  const keptBy = new Map(kept.map((row) => [row[key], row]));
  const derivedBy = new Map(derived.map((row) => [row[key], row]));
  return [...new Set([...keptBy.keys(), ...derivedBy.keys()])].flatMap((name) => {
    const one = text(keptBy.get(name));
    const other = text(derivedBy.get(name));
    return one === other ? [] : [{ property, table, row: String(name), kept: one, derived: other }];
  });
}

function text(row: ProjectionRow | undefined): string | null {
  return row === undefined ? null : JSON.stringify(Object.entries(row).sort(([a], [b]) => (a < b ? -1 : 1)));
}
