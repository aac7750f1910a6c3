export interface Client {
  id: string;
  handle: string;
  name: string;
  contact: string | null;
  /** ISO 3166-1 alpha-2; empty for everyone. */
  audience: string[];
  properties: number;
  /** How far the taking on of its properties is: stages done, of how many. */
  progress: { done: number; total: number };
  createdAt: string;
  version: number;
}
