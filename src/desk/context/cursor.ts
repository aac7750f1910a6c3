import { Op, type WhereOptions } from 'sequelize';
import { Problem } from '../../api/problems.js';

/** The place of a row in a list that is ordered by a time, newest first, and by identifier where times are alike. */
export interface Cursor {
  readonly at: string;
  readonly id: string;
}

/** What `next` says, and `after` takes: the last row that was shown. */
export function cursorText({ at, id }: Cursor): string {
  return `${at}_${id}`;
}

/** The place that a text names. Throws Problem for one that is none. */
export function cursorIn(after: string): Cursor {
  const [, at = '', id = ''] = /^(\d{4}-\d\d-\d\dT[\d:.]+Z)_([\w-]{1,80})$/.exec(after) ?? [];
  if (at === '') throw new Problem('bad-cursor');
  return { at, id };
}

/** The rows behind a cursor, whatever ties there are. Throws Problem for a text that is none. */
export function behind(column: string, after: string | undefined): WhereOptions {
  if (after === undefined) return {};
  const { at, id } = cursorIn(after);
  return {
    [Op.or]: [{ [column]: { [Op.lt]: at } }, { [column]: at, id: { [Op.gt]: id } }],
  };
}
