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
