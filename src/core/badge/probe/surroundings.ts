import { excerpt } from '../../findings/excerpt.js';

/** A few lines of a page around what was found there, cut to a safe size. */
export interface Surroundings {
  /** The line of the find, counted from 1. */
  readonly line: number;
  readonly column: number;
  readonly lines: readonly { readonly number: number; readonly text: string }[];
}

const BEFORE = 60;
const WIDTH = 160;

/** @param line counted from 1, as the parser counts; null is given back for a place that the text does not have */
export function surroundings(text: string, line: number, column: number): Surroundings | null {
  const lines = text.split('\n', line + 1);
  if (line < 1 || lines[line - 1] === undefined) return null;
  const from = Math.max(0, column - 1 - BEFORE);
  const shown = [line - 1, line, line + 1].flatMap((number) => {
    const whole = lines[number - 1];
    if (whole === undefined) return [];
    // A page in one line is cut around the find; its neighbours from their beginning.
    const cut = number === line ? whole.slice(from, from + WIDTH * 2) : whole;
    return [{ number, text: (number === line && from > 0 ? '…' : '') + excerpt(cut, WIDTH) }];
  });
  return { line, column, lines: shown };
}
