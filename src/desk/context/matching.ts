import { col, fn, Op, where, type WhereOptions } from 'sequelize';

/**
 * A condition for rows: the column has this somewhere in its text, in any case. No sign of it counts as a wildcard: the LIKE that the
 * library writes knows no escape, so that whoever looked for `my_page` found nothing.
 */
export function has(column: string, text: string): WhereOptions {
  return where(fn('instr', fn('lower', col(column)), text.toLowerCase()), Op.gt, 0);
}

/** A condition for rows: the text of the column begins with this, in any case. */
export function beginsWith(column: string, text: string): WhereOptions {
  return where(fn('substr', fn('lower', col(column)), 1, text.length), text.toLowerCase());
}
