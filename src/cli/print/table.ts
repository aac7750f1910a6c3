import Table from 'cli-table3';
import { paint, plain, say, sayBlock, shown, width } from './text.js';

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

/**
 * Prints one table; the last column takes what room is left and wraps.
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
    Math.max(title.length, ...cells.flatMap((row) => (row[at] ?? []).map((line) => [...line].length))),
  );
  const taken = widths.slice(0, -1).reduce((sum, one) => sum + one + 2, 0);
  const last = Math.max(20, Math.min(widths.at(-1) ?? 0, width() - taken - 1));
  const printed = new Table({
    head: titles,
    chars: NO_LINES,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    colWidths: [...widths.slice(0, -1), last],
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
