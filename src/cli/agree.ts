import { plain } from './print/text.js';

/**
 * Asks the one at the terminal.
 * @returns null where nobody is there to ask
 */
export async function agrees(question: string): Promise<boolean | null> {
  if (!process.stdin.isTTY || !process.stdout.isTTY) return null;
  const { createInterface } = await import('node:readline/promises');
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  try {
    return /^y(es)?$/i.test((await lines.question(`${plain(question)} [y/N] `)).trim());
  } finally {
    lines.close();
  }
}
