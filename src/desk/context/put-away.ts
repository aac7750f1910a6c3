import { Op, type WhereOptions } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { beginsWith } from './matching.js';

/** No handle that anybody gives holds it. */
const MARK = '~';

/** The handle of what is put away into the archive, so that the one it had is free for others. */
export function putAway({ id, handle }: { readonly id: string; readonly handle: string }): {
  handle: string;
} {
  return { handle: handle.includes(MARK) ? handle : `${handle}${MARK}${id.slice(-6)}` };
}

/** The handle that something had before it was put away. */
export function takenOut({ handle }: { readonly handle: string }): string {
  return handle.split(MARK)[0] ?? handle;
}

/** Where the handle of what was deleted begins: the journal names the row, and there is nothing else left in it. */
const GONE = `${MARK}deleted-`;

/** The handle of what was deleted. */
export function handleGone({ id }: { readonly id: string }): string {
  return `${GONE}${id}`;
}

/** Conditions for rows that were not deleted. */
export const NOT_GONE = { handle: { [Op.notLike]: `${GONE}%` } } as const;

/** The condition for what is in the archive, or for what is not. */
export function inArchive(archived = false): WhereOptions {
  return archived ? { archivedAt: { [Op.ne]: null }, [Op.and]: [NOT_GONE] } : { archivedAt: null };
}

/** Conditions for rows in the archive that had a handle, or have it as it is there. */
export function handlesPutAway(ref: string): WhereOptions[] {
  return [{ handle: ref.trim() }, beginsWith('handle', `${ref.trim()}${MARK}`)];
}

/** The one that was found; null where none was. Throws Problem where a reference fits several, each told. */
export function onlyOne<Row>(ref: string, found: readonly Row[], tell: (one: Row) => string): Row | null {
  const [only = null, second] = found;
  if (second === undefined) return only;
  throw new Problem('ambiguous', { ref, what: found.map(tell).join(', '), one: 'one of them' });
}
