/** What lies ready derived from the facts, as those see it who read its tables. */
export interface Freshness {
  /** Brings up to date whatever was stale when this was asked for. Costs nothing where nothing is. */
  readonly current: () => Promise<void>;
  /** Something that is counted over all that is kept ready, and known as long as nothing there changes. */
  readonly countedOnce: <T>(name: string, count: () => Promise<T>) => Promise<T>;
}
