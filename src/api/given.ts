/**
 * What was given of some values, without those that were not.
 * @example given({ client, limit: undefined }) → { client }
 */
export function given<Values extends object>(
  values: Values,
): { [Key in keyof Values]?: Exclude<Values[Key], undefined> } {
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as {
    [Key in keyof Values]?: Exclude<Values[Key], undefined>;
  };
}
