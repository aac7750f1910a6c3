import { stripVTControlCharacters } from 'node:util';
import colors from 'picocolors';

/** Colours only where a person looks at a terminal. */
export const paint = colors.createColors(
  process.stdout.isTTY === true && process.env['NO_COLOR'] === undefined,
);

/** Foreign text, safe for a terminal: control and direction-changing characters are taken out. */
export function plain(text: string): string {
  return text.replace(/[\p{Cc}\p{Cf}]/gu, (sign) => (sign === '\n' ? '\n' : ''));
}

export function say(text = ''): void {
  process.stdout.write(`${text}\n`);
}

/** JSON with every control character escaped, C1 and bidirectional ones too. */
export function sayJson(document: unknown): void {
  const text = JSON.stringify(document, null, 2).replace(
    /[\u007f-\u009f\u200b-\u200f\u202a-\u202e\u2060-\u2069]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
  say(text);
}

/** A time for people: to the minute, in UTC. */
export function when(time: string | null): string {
  return time === null ? '–' : `${time.slice(0, 10)} ${time.slice(11, 16)}`;
}

/**
 * A paragraph for people: at a terminal its lines break between words and stay indented; elsewhere it is one line, so
 * that it can be searched and cut.
 * @param lead what stands before the first line, spaces for a mere indent
 */
export function paragraph(lead: string, text: string, look: (line: string) => string = (line) => line): void {
  const taken = [...stripVTControlCharacters(lead)].length;
  const room = width() - taken - 1;
  if (!process.stdout.isTTY || room < 30) {
    say(lead + look(text));
    return;
  }
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && [...last].length + 1 + [...word].length <= room)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  const indent = ' '.repeat(taken);
  lines.forEach((line, at) => {
    say((at === 0 ? lead : indent) + look(line));
  });
}

export function width(): number {
  return process.stdout.isTTY ? process.stdout.columns : 120;
}
