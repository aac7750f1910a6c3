/** Times as people read them everywhere in the product: by the day and the minute of UTC, year first (ISO 8601). */
const PARTS = new Intl.DateTimeFormat('en', {
  timeZone: 'UTC',
  hourCycle: 'h23',
  year: 'numeric',
  month: '2-digit',
  day: '2-digit',
  hour: '2-digit',
  minute: '2-digit',
});

function partsOf(time: Date | string): Readonly<Record<string, string>> | null {
  const date = typeof time === 'string' ? new Date(time) : time;
  if (Number.isNaN(date.getTime())) return null;
  return Object.fromEntries(PARTS.formatToParts(date).map(({ type, value }) => [type, value]));
}

/** `2026-11-27`; what is no time comes back as it is. */
export function writtenDay(time: Date | string): string {
  const parts = partsOf(time);
  return parts
    ? `${(parts['year'] ?? '').padStart(4, '0')}-${parts['month'] ?? ''}-${parts['day'] ?? ''}`
    : String(time);
}

/** `2026-11-27 08:05`; what is no time comes back as it is. */
export function writtenMinute(time: Date | string): string {
  const parts = partsOf(time);
  return parts ? `${writtenDay(time)} ${parts['hour'] ?? ''}:${parts['minute'] ?? ''}` : String(time);
}

/** As `writtenMinute`, by the clock of a time zone. @param zone by its IANA name */
export function writtenMinuteIn(time: Date, zone: string): string {
  const parts = new Intl.DateTimeFormat('sv-SE', {
    timeZone: zone,
    dateStyle: 'short',
    timeStyle: 'short',
  });
  return parts.format(time);
}

/** As `writtenDay`, by the calendar of a time zone. @param zone by its IANA name */
export function writtenDayIn(time: Date, zone: string): string {
  return writtenMinuteIn(time, zone).slice(0, 'YYYY-MM-DD'.length);
}
