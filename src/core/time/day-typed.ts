import { DAY } from './duration.js';

const WEEKDAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'] as const;
const RELATIVE: Readonly<Record<string, number>> = { yesterday: -1, today: 0, tomorrow: 1, 'next week': 7 };
const SPANS: Readonly<Record<string, number>> = { day: 1, days: 1, week: 7, weeks: 7 };

/** Midnight of a day of the calendar (UTC); null where the calendar has no such day, as 31 November. */
function midnight(year: number, month: number, day: number): Date | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  const isThere =
    date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
  return isThere ? date : null;
}

/** A time of RFC 3339 whose day the calendar has; null for all else. */
export function timeWritten(text: string): Date | null {
  const parts =
    /^(\d{4})-(\d{2})-(\d{2})(?:T\d{2}:\d{2}(?::\d{2}(?:\.\d+)?)?(?:Z|[+-]\d{2}:?\d{2})?)?$/u.exec(text);
  if (!parts) return null;
  const [, year, month, day] = parts.map(Number);
  if (midnight(year ?? 0, month ?? 0, day ?? 0) === null) return null;
  const time = new Date(text.length === 10 ? `${text}T00:00:00Z` : text);
  return Number.isNaN(time.getTime()) ? null : time;
}

/** Whether a day is told by now, so that it has to be known. */
export function isRelative(text: string): boolean {
  return !/\d{4}/u.test(text);
}

/**
 * A day as people type it: `2026-12-15`, a time of RFC 3339, `15.12.2026`, `tomorrow`, `monday` and `next monday` (the next one after
 * today), `in 3 weeks`. Days are those of UTC.
 * @param now what `tomorrow` goes by
 * @returns null for what is none, as a day that the calendar does not have
 */
export function dayTyped(text: string, now: Date): Date | null {
  const said = text.trim().toLowerCase().replace(/\s+/gu, ' ');
  const written = timeWritten(text.trim());
  if (written) return written;
  const dotted = /^(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})$/u.exec(said);
  if (dotted) return midnight(Number(dotted[3]), Number(dotted[2]), Number(dotted[1]));
  const today = new Date(Math.floor(now.getTime() / DAY) * DAY);
  const later = (days: number) => new Date(today.getTime() + days * DAY);
  const named = RELATIVE[said];
  if (named !== undefined) return later(named);
  const span = /^in (\d{1,3}|a) (days?|weeks?)$/u.exec(said);
  if (span) return later((span[1] === 'a' ? 1 : Number(span[1])) * (SPANS[span[2] ?? ''] ?? 1));
  const weekday = WEEKDAYS.findIndex((one) => one === said.replace(/^(next|on) /u, ''));
  if (weekday === -1) return null;
  return later(((weekday - today.getUTCDay() + 6) % 7) + 1);
}
