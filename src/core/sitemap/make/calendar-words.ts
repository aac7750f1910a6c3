/** Languages whose words for months and days are known (BCP 47). */
const LANGUAGES =
  'bg ca cs cy da de el en es et eu fi fr ga gl hr hu is it ja lt lv mt nb nl pl pt ro ru sk sl sq sr sv tr uk zh'.split(
    ' ',
  );

/** Words for months and days, long and short, in lower case. */
const CALENDAR: ReadonlySet<string> = new Set(LANGUAGES.flatMap(wordsIn));

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

/** Numbers of days, weeks and years, and days written in one. */
const CALENDAR_NUMBER =
  /^(?:0?\d|[1-4]\d|5[0-3]|(?:1[89]|2[0-2])\d\d|(?:1[89]|2[0-2])\d\d(?:0[1-9]|1[0-2])(?:[0-2]\d|3[01])|[1-3]?\d(?:st|nd|rd|th))$/u;

/** Words without those and the numbers of a calendar: what is left of an empty month is what is around it. */
export function plainWords(words: readonly string[]): string[] {
  return words.filter((word) => !CALENDAR_NUMBER.test(word) && !CALENDAR.has(word));
}
