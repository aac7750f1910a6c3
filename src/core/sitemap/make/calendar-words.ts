import { fnv1a } from '../../text/fnv.js';

/** Languages whose words for months and days are known (BCP 47). */
const LANGUAGES =
  'bg ca cs cy da de el en es et eu fi fr ga gl hr hu is it ja lt lv mt nb nl pl pt ro ru sk sl sq sr sv tr uk zh'.split(
    ' ',
  );

/** Words for months and days, long and short, as hashes of their lower case. */
let calendar: ReadonlySet<number> | null = null;

/** Whether a word is one for a month or a day. @param hash FNV-1a of its lower case */
export function isCalendarWord(hash: number): boolean {
  // Made when first asked for: few threads ever are, and all languages cost as much as a hundred pages.
  calendar ??= new Set(LANGUAGES.flatMap(wordsIn).map((word) => fnv1a(word)));
  return calendar.has(hash);
}

/** Whether it is a number of a day, a week or a year, or a day written in one. @param text in any case */
export function isCalendarNumber(text: string): boolean {
  return text.length <= LONGEST_NUMBER && CALENDAR_NUMBER.test(text);
}

function wordsIn(language: string): string[] {
  const days = Array.from({ length: 12 }, (_, month) => new Date(Date.UTC(2026, month, 1 + month)));
  const forms = (['long', 'short'] as const).flatMap((form) => [
    new Intl.DateTimeFormat(language, { month: form, timeZone: 'UTC' }),
    new Intl.DateTimeFormat(language, { month: form, day: 'numeric', timeZone: 'UTC' }),
    new Intl.DateTimeFormat(language, { weekday: form, timeZone: 'UTC' }),
  ]);
  return forms.flatMap((form) =>
    days.flatMap(
      (day) =>
        form
          .format(day)
          .toLowerCase()
          .match(/\p{L}{2,}/gu) ?? [],
    ),
  );
}

/** Eight digits, or two and the ending of an ordinal. */
const LONGEST_NUMBER = 8;
/** Numbers of days, weeks and years, and days written in one. */
const CALENDAR_NUMBER =
  /^(?:0?\d|[1-4]\d|5[0-3]|(?:1[89]|2[0-2])\d\d|(?:1[89]|2[0-2])\d\d(?:0[1-9]|1[0-2])(?:[0-2]\d|3[01])|[1-3]?\d(?:st|nd|rd|th))$/iu;
