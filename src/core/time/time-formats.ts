/** Times as people read them everywhere in the product: by the day and the minute of UTC, year first (ISO 8601). */
function isoOf(time: Date | string): string | null {
  const date = typeof time === 'string' ? new Date(time) : time;
  return Number.isNaN(date.getTime()) ? null : date.toISOString();
}

/** `2026-11-27`; what is no time comes back as it is. */
export function writtenDay(time: Date | string): string {
  const [day] = isoOf(time)?.split('T') ?? [];
  return day ?? String(time);
}

/** `2026-11-27 08:05`; what is no time comes back as it is. */
export function writtenMinute(time: Date | string): string {
  const [day, clock] = isoOf(time)?.split('T') ?? [];
  return day === undefined || clock === undefined ? String(time) : `${day} ${clock.slice(0, 'HH:MM'.length)}`;
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
