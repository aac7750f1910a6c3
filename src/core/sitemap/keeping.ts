const WEEK_MS = 7 * 86_400_000;

/** How long readings are kept, in milliseconds. */
export interface Keeping {
  /** Every reading is kept for so long. */
  readonly all: number;
  /** One a week is kept for so long. */
  readonly weekly: number;
}

/**
 * Which readings of one sitemap may be forgotten. The newest two are always kept, so that there is something to compare,
 * and of each week the first.
 * @param times of the readings, in any order
 */
export function toForget<Reading extends { readonly at: Date }>(
  readings: readonly Reading[],
  keeping: Keeping,
  now: Date,
): Reading[] {
  const newestFirst = [...readings].sort((a, b) => b.at.getTime() - a.at.getTime());
  const old = newestFirst.slice(2).filter(({ at }) => now.getTime() - at.getTime() > keeping.all);
  const ofWeek = new Set<number>();
  return old.reverse().filter(({ at }) => {
    if (now.getTime() - at.getTime() > keeping.weekly) return true;
    const week = Math.floor(at.getTime() / WEEK_MS);
    if (ofWeek.has(week)) return true;
    ofWeek.add(week);
    return false;
  });
}
