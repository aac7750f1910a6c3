import Table from 'cli-table3';
import { columns, paint, plain, say, sayBlock, shown, width } from './text.js';

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

/** A last column that is cut is not worth having with fewer letters than these. */
const LEAST_LAST = 20;

/**
 * Prints one table; columns that hold sentences wrap where there is too little room for all. Where even that is too little, each row is a
 * block of lines, under what stands in its first column.
 * @param empty what to say where there is no row: what would fill it
 * @param cuts whether the last column is cut to its room in place of being wrapped, so that a row is one line
 */
export function table(
  head: readonly string[],
  rows: readonly (readonly Cell[])[],
  empty: string,
  { cuts = false }: { readonly cuts?: boolean } = {},
): void {
  if (rows.length === 0) {
    say(paint.dim(empty));
    return;
  }
  const titles = head.map(plain);
  const cells = rows.map((row) => row.map((cell) => (typeof cell === 'string' ? [cell] : cell).map(plain)));
  const widths = titles.map((title, at) =>
    Math.max(title.length, ...cells.flatMap((row) => (row[at] ?? []).map((line) => [...line].length))),
  );
  const settled = fitted(widths, leastWidths(titles, cells, cuts));
  if (settled === null) {
    blocks(titles, cells);
    return;
  }
  const last = settled.at(-1) ?? 0;
  if (cuts)
    for (const row of cells) row[row.length - 1] = (row.at(-1) ?? []).map((line) => cutTo(line, last));
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
function leastWidths(
  titles: readonly string[],
  rows: readonly (readonly (readonly string[])[])[],
  cuts: boolean,
): number[] {
  return titles.map((title, at) => {
    if (cuts && at === titles.length - 1) return LEAST_LAST;
    const longest = Math.max(...rows.flatMap((row) => (row[at] ?? []).map((line) => [...line].length)), 0);
    if (longest <= SENTENCE) return Math.max(title.length, longest);
    const words = rows.flatMap((row) => (row[at] ?? []).flatMap((line) => line.split(' ')));
    return Math.max(title.length, ...words.map((word) => [...word].length));
  });
}

/** Widths that fit the room, the roomiest column made narrower first; null where none do. Where nobody says how much room there is, only the last gives way. */
function fitted(widths: readonly number[], least: readonly number[]): number[] | null {
  const settled = [...widths];
  const over = () => settled.reduce((sum, one) => sum + one + 2, -1) - width();
  if (columns() === null) {
    settled.push(Math.max(LEAST_LAST, (settled.pop() ?? 0) - Math.max(0, over())));
    return settled;
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

function cutTo(line: string, most: number): string {
  const signs = [...line];
  return signs.length <= most ? line : `${signs.slice(0, most - 1).join('')}…`;
}

/** Each row as lines: what it is called, and under it each title with its value. What is empty is left out. */
function blocks(titles: readonly string[], rows: readonly (readonly (readonly string[])[])[]): void {
  const names = titles.slice(1);
  const longest = Math.max(...names.map((name) => name.length));
  let heading = '';
  for (const [first = [], ...rest] of rows) {
    const own = first.join(' ');
    // Rows of one and the same thing stand under it together.
    if (own !== '' && own !== heading) say(paint.bold(own));
    if (own !== '') heading = own;
    rest.forEach((lines, at) => {
      const value = lines.join(', ');
      if (value !== '' && value !== '–') wrapped(`  ${(names[at] ?? '').padEnd(longest)}  `, value);
    });
  }
}

/** A text behind a lead, broken between words so that it stays within the width. */
function wrapped(lead: string, text: string): void {
  const room = Math.max(LEAST_LAST, width() - lead.length);
  let line = '';
  let isFirst = true;
  const put = (): void => {
    say((isFirst ? lead : ' '.repeat(lead.length)) + line);
    isFirst = false;
  };
  for (const word of text.split(' ')) {
    if (line !== '' && [...line].length + 1 + [...word].length > room) {
      put();
      line = word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  put();
}
