import { enrolmentName, type Nameable } from '../../core/address/enrolment-name.js';
import type { Store } from '../../store/store.js';

interface Row extends Nameable {
  readonly id: string;
}

/** What an enrolment `e` of a property `p` is named by, as columns for a query over the two. */
export const NAME_COLUMNS = `p.handle, e.engine, e.reach, e.target,
  (SELECT a.name FROM accounts a WHERE a.id = e.accountId) AS account,
  (SELECT COUNT(*) FROM enrolments o WHERE o.propertyId = e.propertyId AND o.engine = e.engine AND o.reach = e.reach
      AND o.endedAt IS NULL AND o.id <> e.id) AS others,
  (SELECT COUNT(*) FROM enrolments o WHERE o.propertyId = e.propertyId AND o.engine = e.engine AND o.reach = e.reach
      AND o.target = e.target AND o.endedAt IS NULL AND o.id <> e.id) AS twins`;

/** How an enrolment is written. */
export async function nameOf({ store }: { readonly store: Store }, id: string): Promise<string> {
  return (await namesOf(store, [id])).get(id) ?? id;
}

/** How enrolments are written, by their identifiers: one query, however many they are. */
export async function namesOf(store: Store, ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await store.select<Row>(
    `SELECT e.id, ${NAME_COLUMNS} FROM json_each($ids) wanted
       JOIN enrolments e ON e.id = wanted.value JOIN properties p ON p.id = e.propertyId`,
    { ids: JSON.stringify(ids) },
  );
  return new Map(rows.map((row) => [row.id, enrolmentName(row)]));
}
