import { expect } from 'vitest';
import type { Ran } from '../support/built.js';

/** A line as a person types it, parted into words as a shell does it: by blanks, with quotes of both kinds. */
export function words(line: string): string[] {
  return [...line.matchAll(/"((?:[^"\\]|\\.)*)"|'([^']*)'|(\S+)/gu)].map(
    ([, double, single, bare]) => double?.replace(/\\(.)/gu, '$1') ?? single ?? bare ?? '',
  );
}

/** One line that somebody types, and what has to be on the screen afterwards. */
export interface Typed {
  readonly line: string;
  readonly says: RegExp;
  readonly status?: number;
  /** What is copied from the screen, to be typed later as `{name}`. */
  readonly copies?: Readonly<Record<string, RegExp>>;
}

/** Shorthand for a line, what it says, and what is copied of it. */
export function type(line: string, says: RegExp, more: Omit<Typed, 'line' | 'says'> = {}): Typed {
  return { line, says, ...more };
}

/** Someone at a terminal: types line after line, reads what comes, and copies from it. Counts the commands. */
export class Person {
  count = 0;
  private readonly copied = new Map<string, string>();

  constructor(private readonly cli: (...args: string[]) => Promise<Ran>) {}

  async types(lines: readonly Typed[]): Promise<void> {
    for (const { line, says, status = 0, copies = {} } of lines) {
      this.count += 1;
      const args = words(line).map((word) =>
        word.replace(/\{(\w+)\}/gu, (_, name: string) => this.paste(name)),
      );
      const { out, err, status: ended } = await this.cli(...args);
      const screen = out + err;
      expect({ line, screen, ended }).toMatchObject({
        screen: expect.stringMatching(says) as string,
        ended: status,
      });
      for (const [name, pattern] of Object.entries(copies)) {
        const text = pattern.exec(screen)?.[1];
        if (text === undefined) throw new Error(`${line}: nothing like ${String(pattern)} in\n${screen}`);
        this.copied.set(name, text);
      }
    }
  }

  private paste(name: string): string {
    const text = this.copied.get(name);
    if (text === undefined) throw new Error(`nothing was copied as ${name}`);
    return text;
  }
}
