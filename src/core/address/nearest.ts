/** Names longer than this nobody types by mistake for another. */
const LONGEST = 80;

/**
 * Of some names the one that a text is most likely a slip of: a letter or two that differ, are missing, are too many, or have changed
 * places. Case does not count.
 * @returns null where none is near enough; of several alike the first
 */
export function nearest(text: string, names: Iterable<string>): string | null {
  const wanted = text.trim().toLowerCase();
  if (wanted.length < 3 || wanted.length > LONGEST) return null;
  let least = Math.max(1, Math.floor(wanted.length / 4)) + 1;
  let best: string | null = null;
  for (const name of names) {
    if (Math.abs(name.length - wanted.length) >= least || name.length > LONGEST) continue;
    const steps = slips(wanted, name.toLowerCase());
    if (steps >= least) continue;
    least = steps;
    best = name;
  }
  return best;
}

/** How many slips lie between two words: letters changed, left out, put in, or two neighbours swapped. */
function slips(a: string, b: string): number {
  let twoBack: number[] = [];
  let before = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let row = 1; row <= a.length; row += 1) {
    const now = [row];
    for (let at = 1; at <= b.length; at += 1) {
      const isSame = a[row - 1] === b[at - 1];
      const changed = (before[at - 1] ?? 0) + (isSame ? 0 : 1);
      const isSwapped = row > 1 && at > 1 && a[row - 1] === b[at - 2] && a[row - 2] === b[at - 1];
      now.push(
        Math.min(
          changed,
          (before[at] ?? 0) + 1,
          (now[at - 1] ?? 0) + 1,
          isSwapped ? (twoBack[at - 2] ?? 0) + 1 : Infinity,
        ),
      );
    }
    twoBack = before;
    before = now;
  }
  return before[b.length] ?? Infinity;
}
