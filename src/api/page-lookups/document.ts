import type { EngineRef } from '../parts/document.js';

/** What came of asking an engine about one address, or for a visit to it. */
export interface PageAnswer {
  address: string;
  /** Null for a visit, of which nothing is known yet. */
  listed: boolean | null;
  visitedAt: string | null;
  left: number;
  ration: number;
}

export interface RationOfAccount {
  engine: EngineRef;
  account: string;
  lookups: { used: number; ration: number; left: number };
  visits: { used: number; ration: number; left: number };
  /** When the next day begins. */
  until: string;
}
