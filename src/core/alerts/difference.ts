import { writtenMinute } from '../time/time-formats.js';

/** What a look saw, as far as it is held beside another: each thing by what it is, in words. */
export interface Seen {
  readonly at: Date;
  /** In the order in which they are told: `ended at`, `answered`, `from`, `TXT` … */
  readonly things: readonly { readonly what: string; readonly says: string }[];
}

/** Lines of a difference that are kept, and characters of each: what a website answers is anybody's. */
const MOST_LINES = 16;
const MOST_CHARACTERS = 160;

/**
 * The last good look beside the present one, line by line: `−` before what was so then alone, `+` before what is so now alone, two
 * blanks before what is still so. The marks are signs, so that it reads without colour.
 * @returns empty where one of the two is not known
 */
export function differenceOf(good: Seen | null, present: Seen | null): string[] {
  if (!good || !present) return [];
  const keyOf = ({ what, says }: Seen['things'][number]) => `${what} ${says}`;
  const then = new Set(good.things.map(keyOf));
  const now = new Set(present.things.map(keyOf));
  const whats = [...new Set([...good.things, ...present.things].map(({ what }) => what))];
  const lines = whats.flatMap((what) => [
    ...good.things
      .filter((one) => one.what === what)
      .map((one) => `${now.has(keyOf(one)) ? '  ' : '− '}${keyOf(one)}`),
    ...present.things
      .filter((one) => one.what === what && !then.has(keyOf(one)))
      .map((one) => `+ ${keyOf(one)}`),
  ]);
  return [
    `− as it was at ${writtenMinute(good.at)} UTC, + as it is at ${writtenMinute(present.at)} UTC`,
    ...lines.slice(0, MOST_LINES).map(shortened),
    ...(lines.length > MOST_LINES ? [`  … ${String(lines.length - MOST_LINES)} more`] : []),
  ];
}

function shortened(line: string): string {
  const plain = line.replace(/[\p{Cc}\p{Cf}\u2028\u2029]+/gu, ' ');
  return [...plain].length > MOST_CHARACTERS ? `${[...plain].slice(0, MOST_CHARACTERS).join('')}…` : plain;
}
