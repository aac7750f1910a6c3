import Table from 'cli-table3';
import { paint, plain, say, width } from './text.js';

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

/**
 * Prints one table; the last column takes what room is left and wraps.
 * @param empty what to say where there is no row: what would fill it
 */
export function table(head: readonly string[], rows: readonly (readonly string[])[], empty: string): void {
  if (rows.length === 0) {
    say(paint.dim(empty));
    return;
  }
  const cells = rows.map((row) => row.map(plain));
  const widths = head.map((title, at) =>
    Math.max(
      title.length,
      ...cells.flatMap((row) => (row[at] ?? '').split('\n').map((line) => [...line].length)),
    ),
  );
  const taken = widths.slice(0, -1).reduce((sum, one) => sum + one + 2, 0);
  const last = Math.max(20, Math.min(widths.at(-1) ?? 0, width() - taken - 1));
  const printed = new Table({
    head: head.map((title) => paint.dim(title)),
    chars: NO_LINES,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
    colWidths: [...widths.slice(0, -1), last],
    wordWrap: true,
  });
  printed.push(...cells);
  say(printed.toString().replace(/[ \t]+$/gm, ''));
}
