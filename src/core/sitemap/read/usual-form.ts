import { MAX_LOCATION } from './limits.js';

/** What most addresses are made of: nothing in them needs a closer look. */
export const USUAL = /^[\w\-.~:/?&=+,;@!*()]+$/u;
/** The same letters by their number, without “&”, which XML has written in another way. */
const IN_ADDRESS = lettersOf((letter) => letter !== '&' && USUAL.test(letter));
/** What the other fields are made of as nearly everybody writes them: dates, numbers, one of seven words. */
const IN_FIELD = lettersOf((letter) => /[\w\-.:+]/u.test(letter));

const BLANK = 0x20;
const NEWLINE = 0x0a;
const RETURN = 0x0d;
const LOCATION = tagOf('loc');
const FIELDS = (['lastmod', 'changefreq', 'priority'] as const).map((name) => ({ name, ...tagOf(name) }));
const OPEN = unitsOf('<url>');
const CLOSE = unitsOf('</url>');

/** An address as it was said: as a string, or where it stands, from where it becomes one only when somebody asks for it. */
export type Said = string | UsualAddress;

/** Where in a text an address stands that has nothing to be looked at more closely. */
export class UsualAddress {
  text = '';
  from = 0;
  to = 0;

  toString(): string {
    return this.text.slice(this.from, this.to);
  }
}

/** Units of UTF-16 of the text that is read, used by one reader after the other: whoever reads lays it out first, and reads at once. */
let units = new Uint16Array(2 ** 17);

/**
 * Reads entries of a urlset in which everything is as most of the world writes it: the address first, of usual letters, below the folder
 * of the file; then date, frequency and priority, in this order, each or none; blanks only between elements. It works on numbers
 * and makes no strings. What it takes, the common form would take too, and the parser; of everything else it says that it is not so.
 */
export class UsualForm {
  readonly address = new UsualAddress();
  /** Where each of the other fields stands, in their order: before 0 where the entry has it not. */
  private readonly froms = new Int32Array(FIELDS.length);
  private readonly tos = new Int32Array(FIELDS.length);
  /** Behind the opening tag of the last field. */
  opened = 0;
  /** Behind the entry. */
  end = 0;
  private readonly folder: Uint16Array;

  /** @param folder what addresses have to begin with */
  constructor(folder: string) {
    this.folder = unitsOf(folder);
  }

  /** Lays a text out to be read, right before it is. */
  layOut(text: string): void {
    if (units.length <= text.length) units = new Uint16Array(text.length * 2);
    const { length } = text;
    Buffer.from(units.buffer).write(text, 'utf16le');
    // No letter of any tag or field: whatever runs to the end of the text stops there.
    units[length] = 0;
    this.address.text = text;
  }

  /** Behind the closing tag of the address. */
  get addressEnd(): number {
    return this.address.to + LOCATION.close.length;
  }

  /** Reads one entry of the text that was laid out, with the blanks before it. @returns whether it is of this form */
  read(from: number): boolean {
    const { address, folder } = this;
    let at = pastBlanks(from);
    if (!isAt(OPEN, at)) return false;
    at = pastBlanks(at + OPEN.length);
    if (!isAt(LOCATION.open, at)) return false;
    at += LOCATION.open.length;
    if (!isAt(folder, at)) return false;
    const to = pastLetters(IN_ADDRESS, at + folder.length);
    if (to - at >= MAX_LOCATION || !isAt(LOCATION.close, to)) return false;
    address.from = at;
    address.to = to;
    this.opened = at;
    return this.readFields(pastBlanks(to + LOCATION.close.length));
  }

  private readFields(from: number): boolean {
    const { froms, tos } = this;
    let at = from;
    for (let nth = 0; nth < FIELDS.length; nth += 1) {
      const { open, close } = FIELDS[nth] as (typeof FIELDS)[number];
      froms[nth] = -1;
      if (!isAt(open, at)) continue;
      at += open.length;
      const to = pastLetters(IN_FIELD, at);
      if (to === at || !isAt(close, to)) return false;
      froms[nth] = at;
      tos[nth] = to;
      this.opened = at;
      at = pastBlanks(to + close.length);
    }
    this.end = at + CLOSE.length;
    return isAt(CLOSE, at);
  }

  /** Goes through the other fields of the entry that was read. @param take gets what one is, what it says, and where it ends */
  eachField(take: (name: string, text: string, end: number) => void): void {
    const { froms, tos, address } = this;
    for (let nth = 0; nth < FIELDS.length; nth += 1) {
      const from = froms[nth] as number;
      if (from < 0) continue;
      const to = tos[nth] as number;
      const { name, close } = FIELDS[nth] as (typeof FIELDS)[number];
      take(name, address.text.slice(from, to), to + close.length);
    }
  }
}

/** The letters of what was laid out, as numbers: of use until the next text is. */
export function laidOut(): Uint16Array {
  return units;
}

function isAt(wanted: Uint16Array, at: number): boolean {
  for (let nth = 0; nth < wanted.length; nth += 1) if (units[at + nth] !== wanted[nth]) return false;
  return true;
}

function pastLetters(letters: Uint8Array, from: number): number {
  let at = from;
  // A letter beyond the table is none of it.
  while (letters[units[at] as number] === 1) at += 1;
  return at;
}

/** Behind the blanks at a place. A carriage return alone is a line of its own to XML, and so is none of this form. */
function pastBlanks(from: number): number {
  let at = from;
  for (;;) {
    const unit = units[at];
    if (unit === NEWLINE || unit === BLANK) at += 1;
    else if (unit === RETURN && units[at + 1] === NEWLINE) at += 2;
    else return at;
  }
}

function tagOf(name: string): { open: Uint16Array; close: Uint16Array } {
  return { open: unitsOf(`<${name}>`), close: unitsOf(`</${name}>`) };
}

function unitsOf(text: string): Uint16Array {
  return Uint16Array.from(text, (letter) => letter.charCodeAt(0));
}

function lettersOf(isOne: (letter: string) => boolean): Uint8Array {
  return Uint8Array.from({ length: 128 }, (_, code) => (isOne(String.fromCharCode(code)) ? 1 : 0));
}
