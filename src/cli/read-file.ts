import { readFileSync } from 'node:fs';
import { Usage } from './exit.js';

const WHY: Readonly<Record<string, string>> = {
  ENOENT: 'there is no such file',
  EISDIR: 'it is a folder',
  EACCES: 'it may not be read by you',
};

/** The text of a file, or of standard input for `-`. Throws Usage that says why it cannot be read. */
export function readText(file: string): string {
  try {
    return readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    throw new Usage(`${file}: ${WHY[code] ?? 'it cannot be read'}.`);
  }
}
