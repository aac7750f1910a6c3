import { DIFFERENCES, type Difference } from '../../findings/differences.js';
/** What should stand, and the part of it that is the token alone. */
export interface Wanted {
  readonly whole: string;
  readonly token: string;
}

interface Undoing {
  readonly difference: Difference;
  readonly undo: (text: string) => string;
}

const QUOTES = /["'`´“”„‟‘’‚‛«»‹›″′]/gu;

/** Each takes one kind of change off; applied one after the other until the texts are equal. */
const UNDOINGS: readonly Undoing[] = [
  {
    difference: 'invisible',
    undo: (text) => text.replace(/[\u00ad\u061c\u180e\u200b-\u200f\u202a-\u202e\u2060-\u2064\ufeff]/gu, ''),
  },
  // Character strings whose quotes and gap were kept as part of the value: "abc" "def" (RFC 1035 §5.1).
  { difference: 'split', undo: (text) => text.replace(/["“”]\s+["“”]/gu, '') },
  { difference: 'quotes', undo: (text) => text.replace(QUOTES, '') },
  { difference: 'spaces', undo: (text) => text.replace(/\s+/gu, '') },
  // Word processors make one dash of two hyphens, so a run counts as one.
  { difference: 'dashes', undo: (text) => text.replace(/[-\u2010-\u2015\u2212]+/gu, '-') },
  { difference: 'escaped', undo: unescaped },
  {
    difference: 'look-alike',
    undo: (text) => text.normalize('NFKC').replace(/[а-яА-Я]/gu, (one) => ALIKE[one] ?? one),
  },
  { difference: 'case', undo: (text) => text.toLowerCase() },
];

/** Cyrillic letters that look like Latin ones. */
const ALIKE: Readonly<Record<string, string>> = {
  а: 'a',
  е: 'e',
  о: 'o',
  р: 'p',
  с: 'c',
  у: 'y',
  х: 'x',
  А: 'A',
  В: 'B',
  Е: 'E',
  К: 'K',
  М: 'M',
  Н: 'H',
  О: 'O',
  Р: 'P',
  С: 'C',
  Т: 'T',
  Х: 'X',
};

function unescaped(text: string): string {
  return text
    .replace(
      /&(amp|lt|gt|quot|#34|#39|#45|#61|equals);/giu,
      (_, name: string) => ENTITIES[name.toLowerCase()] ?? '',
    )
    .replace(/%([0-7][0-9a-f])/giu, (_, code: string) => String.fromCharCode(Number.parseInt(code, 16)))
    .replace(/\\([^\w\s])/gu, '$1')
    .replace(/=3D/gu, '=');
}

const ENTITIES: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '<',
  gt: '>',
  quot: '"',
  '#34': '"',
  '#39': "'",
  '#45': '-',
  '#61': '=',
  equals: '=',
};

/**
 * Names what was changed on the way from what should stand to what stands.
 * @returns the differences, the one that says most first; empty when the two are equal, or so unlike that nobody can say
 * @example differencesOf('“abc123”', { whole: 'abc123', token: 'abc123' }) → ['quotes']
 */
export function differencesOf(found: string, wanted: Wanted): Difference[] {
  if (found === wanted.whole) return [];
  const all = compare(found, wanted, UNDOINGS);
  if (all === null) return [];
  // What makes no difference when it is left on is not what differs: a hyphen or a space that belongs there. The least
  // telling is left on first.
  let needed = [...UNDOINGS];
  for (const difference of [...DIFFERENCES].reverse()) {
    const fewer = needed.filter((one) => one.difference !== difference);
    if (compare(found, wanted, fewer) === all) needed = fewer;
  }
  const named = needed.map(({ difference }) => difference);
  return inOrder(all === 'equal' ? named : [...named.filter((one) => !LOOSE.has(one)), all]);
}

/** What a whole tag or line has by nature, and what says nothing where letters are missing. */
const LOOSE = new Set<Difference>(['quotes', 'spaces', 'case', 'escaped', 'look-alike', 'split']);

/** What differs once both sides have been stripped; null where they are too unlike for anybody to say. */
function compare(found: string, wanted: Wanted, undoings: readonly Undoing[]): Difference | 'equal' | null {
  const strip = (text: string) => undoings.reduce((rest, { undo }) => undo(rest), text);
  const seen = strip(found);
  const should = strip(wanted.whole);
  return seen === should ? 'equal' : structural(seen, should, strip(wanted.token));
}

function inOrder(differences: readonly Difference[]): Difference[] {
  return [...differences].sort((a, b) => DIFFERENCES.indexOf(a) - DIFFERENCES.indexOf(b));
}

/** What is missing from the text or too much in it; both sides without spaces, quotes and case. */
function structural(seen: string, should: string, token: string): Difference | null {
  if (seen.includes(token) && /<meta|content=/u.test(seen)) return 'whole-tag';
  if (seen.includes(token) && /\btxt|intxt/u.test(seen)) return 'whole-line';
  const prefix = should.endsWith(token) ? should.slice(0, should.length - token.length) : '';
  if (prefix !== '') {
    if (seen === token) return 'prefix-missing';
    if (seen === prefix + should) return 'prefix-doubled';
    const label = prefix.replace(/[=:]$/u, '');
    if (seen === label + token) return 'prefix-missing';
  }
  const part = seen.replace(/(…|\.\.\.)$/u, '');
  if (
    part.length >= Math.max(4, Math.floor(should.length / 4)) &&
    part.length < should.length &&
    isPart(part, should, token)
  )
    return 'cut';
  if (seen.includes(should) || (token.length >= 8 && seen.includes(token))) return 'extra';
  return token.length >= 8 && isNear(seen, should) ? 'typo' : null;
}

/** A part that has some of the token itself in it: the prefix alone is nobody's value. */
function isPart(part: string, should: string, token: string): boolean {
  const before = should.length - token.length;
  if (should.startsWith(part)) return part.length >= before + 4;
  return should.endsWith(part) && part.length >= 4;
}

/** At most two signs wrong, missing, too many or swapped. */
function isNear(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 2 || a.length > 600) return false;
  let start = 0;
  while (start < a.length && start < b.length && a[start] === b[start]) start += 1;
  let end = 0;
  while (end < a.length - start && end < b.length - start && a.at(-1 - end) === b.at(-1 - end)) end += 1;
  return a.length - start - end <= 2 && b.length - start - end <= 2;
}
