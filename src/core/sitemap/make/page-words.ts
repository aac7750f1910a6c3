import { fnv1aOver, FNV_OFFSET } from '../../text/fnv.js';
import { isCalendarNumber, isCalendarWord } from './calendar-words.js';

/** Words of one page that are looked at. */
const MOST_WORDS = 5_000;
/** Letters of a word that count; nobody has longer ones. */
const LONGEST_WORD = 100;
const ASCII = 0x80;
/** Letters and digits of ASCII in lower case, by their code; 0 for what ends a word. */
const IN_WORDS = Uint8Array.from({ length: ASCII }, (_, code) => {
  const letter = String.fromCharCode(code);
  return /[a-z0-9]/iu.test(letter) ? letter.toLowerCase().charCodeAt(0) : 0;
});
const ZERO = 0x30;
const NINE = 0x39;

/**
 * The words of a page, as hashes (FNV-1a of each in lower case): every page of a website has a thousand, of which nobody wants to see
 * one again.
 */
export class PageWords {
  private readonly all = new Int32Array(MOST_WORDS);
  private readonly withoutCalendar = new Int32Array(MOST_WORDS);
  private count = 0;
  private plainCount = 0;

  /** Those in their order. */
  get hashes(): Int32Array {
    return this.all.subarray(0, this.count);
  }

  /** Those without the words and numbers of a calendar: what is left of an empty month is what is around it. */
  get plain(): Int32Array {
    return this.withoutCalendar.subarray(0, this.plainCount);
  }

  /** Adds the words of a text, as far as there is room. */
  take(text: string): void {
    let from = -1;
    let value = FNV_OFFSET;
    for (let at = 0; at < text.length && this.count < MOST_WORDS; at += 1) {
      const code = text.charCodeAt(at);
      if (code >= ASCII) {
        // The rest, and the word that has begun, by the rules for all scripts.
        this.takeByScript(text.slice(from < 0 ? at : from));
        return;
      }
      const letter = IN_WORDS[code] as number;
      if (letter !== 0) {
        if (from < 0) {
          from = at;
          value = FNV_OFFSET;
        }
        if (at - from < LONGEST_WORD) value = fnv1aOver(value, letter);
      } else if (from >= 0) {
        this.add(value, text, from, at);
        from = -1;
      }
    }
    if (from >= 0) this.add(value, text, from, text.length);
  }

  private takeByScript(text: string): void {
    for (const [found] of text.matchAll(/[\p{L}\p{N}]+/gu)) {
      if (this.count >= MOST_WORDS) return;
      const word = found.slice(0, LONGEST_WORD).toLowerCase();
      let value = FNV_OFFSET;
      for (let at = 0; at < word.length; at += 1) value = fnv1aOver(value, word.charCodeAt(at));
      this.add(value, word, 0, word.length);
    }
  }

  private add(hash: number, text: string, from: number, to: number): void {
    if (this.count >= MOST_WORDS) return;
    this.all[this.count] = hash;
    this.count += 1;
    const first = text.charCodeAt(from);
    const isNumber = first >= ZERO && first <= NINE;
    if (isNumber ? isCalendarNumber(text.slice(from, to)) : isCalendarWord(hash)) return;
    this.withoutCalendar[this.plainCount] = hash;
    this.plainCount += 1;
  }
}
