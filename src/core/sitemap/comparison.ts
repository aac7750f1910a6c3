/** What is compared for one submission: our readings and the engine's. */
export interface CountFacts {
  readonly submittedAt: Date;
  readonly ours: {
    /** Addresses by our newest reading; null while unread or unreadable. */
    readonly addresses: number | null;
    /** Addresses by our last reading before the engine's own; null where there is none. */
    readonly atEngineReading: number | null;
    /** What our newest reading found that keeps every reader out; null where nothing does. */
    readonly broken: string | null;
  };
  readonly engine: {
    readonly readAt: Date | null;
    readonly found: number | null;
    readonly listed: number | null;
    /** What the engine could not do, in its own words. */
    readonly trouble: string | null;
  } | null;
  /** Since when the counts have been apart without a pause; null where they are not known to be. */
  readonly apartSince: Date | null;
}

/**
 * `waiting`: the engine has not read it, and need not have yet. `overdue`: it should have by now, and nothing that we see
 * keeps it. `troubled`: it says that it could not, and we can. `broken`: our own reading shows why it cannot.
 * `behind`: it was right when it looked, and there are others by now. `apart`: it found another number than there were.
 */
export const COUNT_STATES = ['waiting', 'overdue', 'troubled', 'broken', 'equal', 'behind', 'apart'] as const;
export type CountState = (typeof COUNT_STATES)[number];

/** States that are a case to work on. */
export const COUNT_CASES: readonly CountState[] = ['overdue', 'troubled', 'broken', 'apart'];

export interface Comparison {
  readonly state: CountState;
  /** Until when waiting is in order; null once the engine has read. */
  readonly dueBy: Date | null;
  /** Ours less the engine's; null while one of them is missing. */
  readonly gap: number | null;
  /** Since when there has been a gap; null where there is none. */
  readonly since: Date | null;
  /** Why the engine cannot read it, by our own reading; only when broken. */
  readonly why: string | null;
}

/**
 * Compares our count with the engine's. Found should equal ours; before the first reading is due, nothing is wrong.
 * @param firstReadingMs how long the engine may take for a first reading, in milliseconds
 */
export function compareCounts(facts: CountFacts, firstReadingMs: number, now: Date): Comparison {
  const { ours, engine } = facts;
  const dueBy = new Date(facts.submittedAt.getTime() + firstReadingMs);
  const none = { dueBy: null, gap: null, since: null, why: null };
  if (!engine || engine.readAt === null || engine.found === null) {
    if (ours.broken !== null) return { ...none, state: 'broken', dueBy, why: ours.broken };
    // Engines often report a failed first reading; until it is due that means wait, not repair.
    if (now < dueBy) return { ...none, state: 'waiting', dueBy };
    return { ...none, state: engine?.trouble ? 'troubled' : 'overdue', dueBy };
  }
  const gap = ours.addresses === null ? null : ours.addresses - engine.found;
  if (ours.broken !== null) return { ...none, state: 'broken', gap, why: ours.broken };
  if (engine.trouble !== null) return { ...none, state: 'troubled', gap };
  if (gap === 0) return { ...none, state: 'equal', gap };
  const wasRight = ours.atEngineReading === engine.found;
  return { ...none, state: wasRight ? 'behind' : 'apart', gap, since: facts.apartSince };
}
