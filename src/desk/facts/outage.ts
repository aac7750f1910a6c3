/** A time in which nothing could be seen from here. */
export interface Outage {
  readonly id: string;
  readonly since: string;
  /** Null while it goes on. */
  readonly until: string | null;
  readonly says: string;
}
