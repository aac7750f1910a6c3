const DAY_MS = 86_400_000;

/** How much of a day's ration is spent. Days are those of UTC, as the engine link has them. */
export interface Ration {
  readonly used: number;
  /** 0 where the engine takes none. */
  readonly ration: number;
  readonly left: number;
  /** When the next day begins. */
  readonly until: Date;
}

/** The beginning of the day that a time lies in. */
export function dayOf(now: Date): Date {
  return new Date(Math.floor(now.getTime() / DAY_MS) * DAY_MS);
}

/**
 * When the nth of many has its turn, counted from 0: what is left of today's ration first, then a ration a day.
 * @returns null for today
 */
export function turnOf(nth: number, { left, ration, until }: Ration): Date | null {
  if (nth < left || ration === 0) return null;
  return new Date(until.getTime() + Math.floor((nth - left) / ration) * DAY_MS);
}

export function rationOf(used: number, ration: number, now: Date): Ration {
  return { used, ration, left: Math.max(0, ration - used), until: new Date(dayOf(now).getTime() + DAY_MS) };
}
