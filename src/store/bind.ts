/** What a hand-written statement is given: a list goes as JSON, for `json_each`. */
export type Values = Readonly<Record<string, unknown>>;

/**
 * The values that a statement names as `$name`, as SQLite binds them (https://sqlite.org/lang_expr.html#varparam): none is ever written
 * into a statement. Those that it does not name are left out, since SQLite refuses them.
 * @throws Error where it names one that is not given
 */
export function bind(sql: string, values: Values): Record<string, unknown> {
  const found: Record<string, unknown> = {};
  for (const [, name = ''] of sql.matchAll(/\$([A-Za-z]\w*)/gu)) {
    const value = values[name];
    if (value === undefined) throw new Error(`nothing is given for $${name} of ${sql}`);
    found[name] = Array.isArray(value) ? JSON.stringify(value) : value;
  }
  return found;
}
