import type { Position } from './faults.js';

/** What a parser says of where it is: lines from 1, columns from 0, in letters and in units of UTF-16. */
export interface ParserPosition extends Position {
  readonly columnIndex: number;
  readonly position: number;
}

/** Letters that take two units of UTF-16. */
const PAIRS = /[\ud800-\udbff][\udc00-\udfff]/g;

interface Told {
  /** How far of the text it is. */
  readonly at: number;
  readonly line: number;
  readonly column: number;
  readonly units: number;
}

/**
 * Where something stands in a file of which a parser reads some parts, and a quicker way the others. It is told only when it is asked
 * for, which is seldom: then lines are counted from the last place that is known.
 */
export class PositionTracker implements Position {
  /** What is to be added to what the parser says: of lines always, of columns while it is on the line where it took over. */
  private added = { line: 0, column: 0, units: 0 };
  private takenOverAt = 0;
  /** The text that is read the quick way, where it begins, and the last place in it that was told. */
  private text: string | null = null;
  private begin: Told = { at: 0, line: 1, column: 0, units: 0 };
  private known = this.begin;
  private offset = 0;

  constructor(private readonly parser: ParserPosition) {}

  get line(): number {
    return this.now().line;
  }

  get column(): number {
    return this.now().column;
  }

  get columnIndex(): number {
    return this.now().units;
  }

  /** How far of the text that is read the quick way something stands that is asked for from now on. */
  at(offset: number): this {
    this.offset = offset;
    return this;
  }

  /**
   * From an offset on a text is read the quick way: that is where the parser is, or where the text before was left.
   * @param given how many letters the parser was given: it counts its last piece twice until it is given the next
   */
  quick(text: string, from: number, given: number): void {
    const { line, column, units } = this.now(given);
    this.begin = { at: from, line, column, units };
    this.known = this.begin;
    this.text = text;
    this.offset = from;
  }

  /** From where the text was left on the parser reads. */
  parsed(given: number): void {
    const { line, column, units } = this.now(given);
    const { parser } = this;
    this.added = {
      line: line - parser.line,
      column: column - parser.column,
      units: units - (parser.columnIndex - parser.position + given),
    };
    this.takenOverAt = parser.line;
    this.text = null;
  }

  private now(given = this.parser.position): Omit<Told, 'at'> {
    if (this.text !== null) return this.counted(this.text);
    const { parser, added } = this;
    const isSameLine = parser.line === this.takenOverAt;
    return {
      line: parser.line + added.line,
      column: parser.column + (isSameLine ? added.column : 0),
      units: parser.columnIndex - parser.position + given + (isSameLine ? added.units : 0),
    };
  }

  private counted(text: string): Told {
    const { offset } = this;
    const from = offset < this.known.at ? this.begin : this.known;
    let { line } = from;
    let begin = -1;
    for (let at = text.indexOf('\n', from.at); at !== -1 && at < offset; at = text.indexOf('\n', at + 1)) {
      line += 1;
      begin = at + 1;
    }
    const rest = text.slice(begin === -1 ? from.at : begin, offset);
    const letters = rest.length - (rest.match(PAIRS)?.length ?? 0);
    this.known =
      begin === -1
        ? { at: offset, line, column: from.column + letters, units: from.units + rest.length }
        : { at: offset, line, column: letters, units: rest.length };
    return this.known;
  }
}
