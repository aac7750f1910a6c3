import type { FindingCode } from '../../findings/catalogue.js';

/** The entries of one file one by one, in columns: what is looked at of each, and what was found of it. */
export interface ListedColumns {
  readonly addresses: readonly string[];
  /** The line on which each address ends. */
  readonly lines: readonly number[];
  /** When each changed last, as it is written; null where nothing is. */
  readonly dates: readonly (string | null)[];
  /** The codes of what was found of each, with blanks between them; null where nothing was. */
  readonly faults: readonly (string | null)[];
}

/** Characters of an address, and of a date, that are listed. */
const LONGEST_ADDRESS = 4_096;
const LONGEST_DATE = 40;

/** Lists the entries of one file as they are read. */
export class Listing {
  private readonly addresses: string[] = [];
  private readonly lines: number[] = [];
  private readonly dates: (string | null)[] = [];
  private readonly faults: (string | null)[] = [];
  private hasAddress = false;
  private date: string | null = null;
  private codes: FindingCode[] = [];

  /** An entry begins: what comes belongs to it, in whatever order it is written. */
  begins(): void {
    this.settle();
  }

  address(location: string, line: number): void {
    if (this.hasAddress) this.settle();
    this.hasAddress = true;
    this.addresses.push(location.slice(0, LONGEST_ADDRESS));
    this.lines.push(line);
  }

  changed(text: string): void {
    this.date ??= text.slice(0, LONGEST_DATE);
  }

  found(code: FindingCode): void {
    if (!this.codes.includes(code)) this.codes.push(code);
  }

  columns(): ListedColumns {
    this.settle();
    const { addresses, lines, dates, faults } = this;
    return { addresses, lines, dates, faults };
  }

  private settle(): void {
    if (this.hasAddress) {
      this.dates.push(this.date);
      this.faults.push(this.codes.length === 0 ? null : this.codes.join(' '));
    }
    this.hasAddress = false;
    this.date = null;
    this.codes = [];
  }
}
