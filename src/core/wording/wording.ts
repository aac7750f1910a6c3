import { LETTER_SENTENCES, type LetterSentences } from '../letter/letter.js';
import { SENTENCES, type SheetLanguage, type SheetSentences } from '../sheet/sentences.js';

/** What is said in words that an agency may change: sheets, and letters. */
export const WORDING_PARTS = ['sheet', 'letter'] as const;
export type WordingPart = (typeof WORDING_PARTS)[number];

/** One sentence in an agency's own words. */
export interface OwnWords {
  readonly language: SheetLanguage;
  readonly part: WordingPart;
  readonly name: string;
  readonly says: string;
}

export interface Wording {
  readonly sheet: SheetSentences;
  readonly letter: LetterSentences;
}

const LONGEST = 1_500;

/** Every sentence as we say it. */
export function usualWords(
  language: SheetLanguage,
): Readonly<Record<WordingPart, Readonly<Record<string, string>>>> {
  return { sheet: { ...SENTENCES[language] }, letter: { ...LETTER_SENTENCES[language] } };
}

/** All sentences of a language, the agency's own in the place of ours. One that there is no more is left out. */
export function wordingOf(language: SheetLanguage, own: readonly OwnWords[]): Wording {
  const words = { sheet: { ...SENTENCES[language] }, letter: { ...LETTER_SENTENCES[language] } };
  for (const one of own)
    if (one.language === language && Object.hasOwn(words[one.part], one.name))
      Object.assign(words[one.part], { [one.name]: one.says });
  return words;
}

/** What is filled into a sentence, by the names that stand in it in braces. */
export function placesIn(sentence: string): string[] {
  return [...new Set([...sentence.matchAll(/\{(\w+)\}/gu)].map(([, name = '']) => name))];
}

/**
 * What is wrong with a sentence in somebody's own words; null where nothing is. It may leave out what is only nice to know, but not what it
 * is for: whatever ours fills in has to be filled in.
 */
export function faultIn(usual: string, says: string): string | null {
  if (says.trim() === '') return 'It says nothing.';
  if (says.length > LONGEST)
    return `It has ${String(says.length)} letters; at most ${String(LONGEST)} are taken.`;
  if (/[^\P{Cc}\n]/u.test(says)) return 'It has a control character in it.';
  if (says.includes('\n') && !usual.includes('\n')) return 'It is to be one line.';
  const known = placesIn(usual);
  const unknown = placesIn(says).filter((name) => !known.includes(name));
  if (unknown.length > 0)
    return `{${unknown.join('}, {')}} is nothing that is filled in here; expected ${known.length === 0 ? 'none' : `{${known.join('}, {')}}`}.`;
  const missing = known.filter((name) => !says.includes(`{${name}}`));
  if (missing.length > 0) return `{${missing.join('}, {')}} has to be in it: that is filled in.`;
  const stray = /[{}]/u.exec(says.replace(/\{\w+\}/gu, ''));
  return stray ? 'It has a brace that belongs to no name.' : null;
}
