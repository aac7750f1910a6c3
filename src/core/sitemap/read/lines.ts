import type { Entries } from './entries.js';

const LONGEST_LINE = 8_192;

/** A sitemap that is plain text: one address a line, nothing else (sitemaps.org protocol, "Text file"). */
export class Lines {
  private rest = '';
  private line: number;

  /** @param before lines that were passed already */
  constructor(
    private readonly entries: Entries,
    before: number,
    private readonly isFull: () => boolean,
  ) {
    this.line = before;
  }

  write(piece: string): void {
    const lines = (this.rest + piece).split('\n');
    this.rest = (lines.pop() ?? '').slice(0, LONGEST_LINE);
    for (const line of lines) {
      if (this.isFull()) return;
      this.take(line);
    }
  }

  end(): void {
    if (this.rest !== '' && !this.isFull()) this.take(this.rest);
    this.rest = '';
  }

  private take(line: string): void {
    this.line += 1;
    const text = line.trim();
    if (text === '') return;
    this.entries.begins();
    this.entries.address(text, { line: this.line, column: line.indexOf(text[0] ?? '') + 1 });
  }
}
