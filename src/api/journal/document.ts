/** What changed since the event before, for open pages: they read just that again. */
export interface Changes {
  /** Kinds of happenings by their first word, `claim`; `job` where the state of one changed. */
  kinds: string[];
  /** Properties that were touched, by identifier; null where they are too many to be named. */
  properties: string[] | null;
}

export interface JournalEntry {
  seq: number;
  at: string;
  who: string | null;
  kind: string;
  client: string | null;
  property: string | null;
  says: string;
  details: Record<string, unknown> | null;
}
