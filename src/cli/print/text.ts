import { randomUUID } from 'node:crypto';
import picocolors from 'picocolors';
import stringWidth from 'string-width';
import wrapAnsi from 'wrap-ansi';
import { writtenMinute } from '../../api/formats.js';

/**
 * Stands for the escape character in what we colour ourselves, until the printer puts that in its place: a noncharacter of
 * Unicode and a word of this run, which no text from outside can hold.
 */
const ESCAPE = `\ufdd0${randomUUID()}`;
const ESC = '\u001b';

/** Yellow and cyan are too pale on a light ground, and blue too dark on a dark one: what is neither right nor wrong is magenta. */
const COLOURS = ['bold', 'dim', 'red', 'green', 'magenta', 'inverse', 'underline'] as const;
type Colour = (typeof COLOURS)[number];

/** Colours only where a person looks at a terminal. */
export const paint: Readonly<Record<Colour, (text: string) => string>> = painter(
  process.stdout.isTTY === true && process.env['NO_COLOR'] === undefined,
);

function painter(isOn: boolean): Record<Colour, (text: string) => string> {
  const colours = picocolors.createColors(isOn);
  return Object.fromEntries(
    COLOURS.map((name) => [name, (text: string) => colours[name](clean(text)).replaceAll(ESC, ESCAPE)]),
  ) as Record<Colour, (text: string) => string>;
}

/** Text that stays in its line and moves nothing: without control and direction-changing characters, line breaks as spaces. */
function clean(text: string): string {
  return text.replace(/[\r\n\u2028\u2029\t]+/gu, ' ').replace(/[\p{Cc}\p{Cf}]/gu, '');
}

/** Foreign text as it may stand anywhere in a line. The printer cleans what it is given by itself; this is for what is measured. */
export function plain(text: string): string {
  return clean(text);
}

/** How many columns of a terminal a text takes, without our own colours: a wide letter takes two (Unicode Standard Annex #11). */
export function columnsOf(text: string): number {
  return stringWidth(shown(text));
}

/** A text in lines of so many columns at the most, broken between words; a longer word has a line of its own. */
export function wrappedLines(text: string, room: number): string[] {
  return wrapAnsi(text, room, { hard: false }).split('\n');
}

/** Text as a terminal shows it, without our own colours. */
export function shown(text: string): string {
  return text
    .split(ESCAPE)
    .map((part, at) => (at === 0 ? part : part.replace(/^\[[\d;]*m/u, '')))
    .join('');
}

/**
 * Prints one line. Whatever text of others is in it cannot leave it, begin a line of its own, or speak to the terminal: only our
 * own colours come through.
 */
export function say(text = ''): void {
  process.stdout.write(`${clean(text).replaceAll(ESCAPE, ESC)}\n`);
}

/** Prints lines that were put together and cleaned already: a table, a document. */
export function sayBlock(text: string): void {
  process.stdout.write(`${text.replaceAll(ESCAPE, ESC)}\n`);
}

/** An error, on the other stream; lines after the first are indented, so that none can pass for one of ours. */
export function sayError(says: string): void {
  const text = says.split(/\r?\n/u).map(clean).join('\n  ');
  process.stderr.write(`${paint.red('yardbadge:').replaceAll(ESCAPE, ESC)} ${text}\n`);
}

/** A word beside the output, for the person at the terminal and not for the next program. */
export function sayAside(says: string): void {
  process.stderr.write(`${clean(says)}\n`);
}

/** JSON with every control character escaped, C1 and bidirectional ones too. */
export function sayJson(document: unknown): void {
  process.stdout.write(`${escaped(JSON.stringify(document, null, 2))}\n`);
}

/** The same in one line. */
export function sayJsonLine(document: unknown): void {
  process.stdout.write(`${escaped(JSON.stringify(document))}\n`);
}

function escaped(json: string): string {
  return json.replace(
    /[\u007f-\u009f\u200b-\u200f\u2028-\u202e\u2060-\u2069]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

/** A time for people: to the minute, in UTC. */
export function when(time: string | null): string {
  return time === null ? '–' : writtenMinute(time);
}

/**
 * A paragraph for people: at a terminal its lines break between words and stay indented; elsewhere it is one line, so
 * that it can be searched and cut.
 * @param lead what stands before the first line, spaces for a mere indent
 */
export function paragraph(lead: string, text: string, look: (line: string) => string = (line) => line): void {
  const taken = columnsOf(lead);
  const room = width() - taken - 1;
  if (!process.stdout.isTTY || room < 30) {
    say(lead + look(text));
    return;
  }
  const indent = ' '.repeat(taken);
  wrappedLines(plain(text), room).forEach((line, at) => {
    say((at === 0 ? lead : indent) + look(line));
  });
}

/** Columns where nobody looks at a terminal and nobody says. */
const USUAL_WIDTH = 120;

/** How many columns there are: of the terminal, or as COLUMNS says, also where the output goes into a pipe; null where nobody says. */
export function columns(): number | null {
  if (process.stdout.isTTY && process.stdout.columns > 0) return process.stdout.columns;
  const said = Number(process.env['COLUMNS']);
  return Number.isInteger(said) && said >= 20 && said <= 10_000 ? said : null;
}

export function width(): number {
  return columns() ?? USUAL_WIDTH;
}
