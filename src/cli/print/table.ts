import Table from 'cli-table3';
import { columns, columnsOf, paint, plain, say, sayBlock, shown, width, wrappedLines } from './text.js';

const NO_LINES = {
  top: '',
  'top-mid': '',
  'top-left': '',
  'top-right': '',
  bottom: '',
  'bottom-mid': '',
  'bottom-left': '',
  'bottom-right': '',
  left: '',
  'left-mid': '',
  mid: '',
  'mid-mid': '',
  right: '',
  'right-mid': '',
  middle: '  ',
};

/** What stands in a cell: a text, or several lines. */
export type Cell = string | readonly string[];

/** A last column of sentences is not worth having beside the others with fewer letters than these. */
const LEAST_LAST = 44;
/** A column that is not the last is no wider than this where nobody says how much room there is. */
const WIDEST_INNER = 60;

/**
 * Prints one table, a row beside the other so that they can be compared. Columns that hold sentences wrap where there is too little room for
 * all; where even that is too little, what stands on the right goes under its row, whole.
 * @param empty what to say where there is no row: what would fill it
 */
export function table(head: readonly string[], rows: readonly (readonly Cell[])[], empty: string): void {
  if (rows.length === 0) {
    say(paint.dim(empty));
    return;
  }
  const titles = head.map(plain);
  const cells = rows.map((row) => row.map((cell) => (typeof cell === 'string' ? [cell] : cell).map(plain)));
  const widths = titles.map((title, at) =>
    Math.max(columnsOf(title), ...cells.flatMap((row) => (row[at] ?? []).map(columnsOf))),
  );
  const settled = fitted(widths, leastWidths(titles, cells));
  if (settled === null) {
    underneath(titles, cells, widths);
    return;
  }
  const printed = new Table({
    head: titles,
    chars: NO_LINES,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    colWidths: settled,
    wordWrap: true,
  });
  printed.push(...cells.map((row) => row.map((lines) => lines.join('\n'))));
  // The head is coloured once its width is settled: our colours have none.
  const [first = '', ...others] = printed
    .toString()
    .replace(/[ \t]+$/gm, '')
    .split('\n');
  sayBlock([paint.dim(shown(first)), ...others].join('\n'));
}

/** A column with more letters than these holds sentences, which wrap; times, names and numbers do not. */
const SENTENCE = 30;

/** What each column needs at the least: all of it, or of sentences the longest word, since what stands in a cell is copied. */
function leastWidths(titles: readonly string[], rows: readonly (readonly (readonly string[])[])[]): number[] {
  return titles.map((title, at) => {
    const longest = Math.max(...rows.flatMap((row) => (row[at] ?? []).map(columnsOf)), 0);
    if (longest <= SENTENCE) return Math.max(columnsOf(title), longest);
    const words = rows.flatMap((row) => (row[at] ?? []).flatMap((line) => line.split(' ')));
    const least = Math.max(columnsOf(title), ...words.map(columnsOf));
    return at === titles.length - 1 ? Math.min(longest, Math.max(least, LEAST_LAST)) : least;
  });
}

/** Widths that fit the room, the roomiest column made narrower first; null where none do. Where nobody says how much room there is, only the last gives way. */
function fitted(widths: readonly number[], least: readonly number[]): number[] | null {
  const settled = [...widths];
  const over = () => settled.reduce((sum, one) => sum + one + 2, -1) - width();
  if (columns() === null) {
    const inner = settled
      .slice(0, -1)
      .map((one, at) => (one <= WIDEST_INNER ? one : Math.max(WIDEST_INNER, least[at] ?? 0)));
    const taken = inner.reduce((sum, one) => sum + one + 2, 0);
    return [...inner, Math.max(least.at(-1) ?? 0, Math.min(settled.at(-1) ?? 0, width() - taken))];
  }
  for (;;) {
    const excess = over();
    if (excess <= 0) return settled;
    const slack = settled.map((one, at) => one - (least[at] ?? 0));
    const most = Math.max(...slack);
    const at = slack.indexOf(most);
    if (most <= 0) return null;
    settled[at] = (settled[at] ?? 0) - Math.min(excess, most, Math.max(1, Math.ceil(most / 3)));
  }
}

/** How far what stands under a row is set in. */
const UNDER = '    ';

/** Each row as far as there is room for it, the columns under one another; and under it what stands on the right. */
function underneath(
  titles: readonly string[],
  rows: readonly (readonly (readonly string[])[])[],
  widths: readonly number[],
): void {
  const room = width();
  let kept = 0;
  let taken = 0;
  while (kept < titles.length - 1 && (kept === 0 || taken + (widths[kept] ?? 0) <= room)) {
    taken += (widths[kept] ?? 0) + 2;
    kept += 1;
  }
  const inColumns = (cells: readonly string[]): string =>
    cells
      .map((cell, at) => cell + ' '.repeat(Math.max(0, (widths[at] ?? 0) - columnsOf(cell))))
      .join('  ')
      .trimEnd();
  say(paint.dim(inColumns(titles.slice(0, kept))));
  const under = titles.slice(kept).filter((title) => title !== '');
  if (under.length > 0) say(paint.dim(`${UNDER}${under.join(' · ')}`));
  for (const row of rows) {
    const own = row.slice(0, kept);
    for (let line = 0; line < Math.max(1, ...own.map((lines) => lines.length)); line += 1)
      say(inColumns(own.map((lines) => lines[line] ?? '')));
    const rest = row.slice(kept).flatMap((lines, at) => {
      const text = lines.join(', ');
      if (text === '' || text === '–') return [];
      // The last, most often a sentence, needs no title.
      const isLast = kept + at === titles.length - 1;
      return [isLast || columnsOf(text) > SENTENCE ? text : `${titles[kept + at] ?? ''} ${text}`];
    });
    if (rest.length > 0) wrapped(UNDER, rest.join(' · '));
  }
}

/** A text behind a lead, broken between words so that it stays within the width. */
function wrapped(lead: string, text: string): void {
  const room = Math.max(LEAST_LAST, width() - lead.length);
  for (const line of wrappedLines(text, room)) say(lead + line);
}
