import type { ClaimsBy } from '../../core/record/states.js';

export interface Client {
  id: string;
  handle: string;
  name: string;
  contact: string | null;
  /** ISO 3166-1 alpha-2; empty for everyone. */
  audience: string[];
  /** Who makes its claims once they are foreseen to be accepted; null where it is as for the whole agency. */
  claims: ClaimsBy | null;
  properties: number;
  /** How far the taking on of its properties is: stages done, of how many. */
  progress: { done: number; total: number };
  createdAt: string;
  /** When it was put into the archive; null where it is at work. */
  archivedAt: string | null;
  /** Of one in the archive: until when its records are to be kept, as its hand-over named it; null where it named no day. */
  deleteOn: string | null;
  version: number;
}
