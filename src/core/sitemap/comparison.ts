/** What is compared for one submission: our count and the engine's. */
export interface CountFacts {
  readonly submittedAt: Date;
  /** Addresses by our newest reading; null while unread or unreadable. */
  readonly ours: number | null;
  readonly engine: {
    readonly readAt: Date | null;
    readonly found: number | null;
    readonly listed: number | null;
    /** What the engine could not do, in its own words. */
    readonly trouble: string | null;
  } | null;
}

export type CountState = 'waiting' | 'overdue' | 'troubled' | 'equal' | 'apart';

export interface Comparison {
  readonly state: CountState;
  /** Until when waiting is in order; null once the engine has read. */
  readonly dueBy: Date | null;
  /** Ours less the engine's; null while one of them is missing. */
  readonly gap: number | null;
}

/**
 * Compares our count with the engine's. Found should equal ours; before the first reading is due, nothing is wrong.
 * @param firstReadingMs how long the engine may take for a first reading, in milliseconds
 */
export function compareCounts(facts: CountFacts, firstReadingMs: number, now: Date): Comparison {
  const dueBy = new Date(facts.submittedAt.getTime() + firstReadingMs);
  const engine = facts.engine;
  if (!engine || engine.readAt === null || engine.found === null) {
    // Engines often report a failed first reading; until it is due that means wait, not repair.
    if (now < dueBy) return { state: 'waiting', dueBy, gap: null };
    return { state: engine?.trouble ? 'troubled' : 'overdue', dueBy, gap: null };
  }
  const gap = facts.ours === null ? null : facts.ours - engine.found;
  return { state: gap === 0 ? 'equal' : 'apart', dueBy: null, gap };
}
