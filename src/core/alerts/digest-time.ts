import { Temporal } from 'temporal-polyfill';

/** How often a report is sent. */
export const REPORT_RHYTHMS = ['week', 'month'] as const;
export type ReportRhythm = (typeof REPORT_RHYTHMS)[number];

/** Whether a name is one of a time zone (IANA), such as `Europe/Berlin`. */
export function isTimeZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

/**
 * The next time at which it is so late in a zone, after some time: once on every day. Where the clock shows the hour twice (a change
 * from summer time), it is the first; where it leaves the hour out, it is as long after midnight as it would be without the change (RFC
 * 5545, section 3.3.5).
 * @param after not before or at this time
 * @param clock `07:30`
 * @param zone by its IANA name
 */
export function nextAt(after: Date, clock: string, zone: string): Date {
  const plainTime = Temporal.PlainTime.from(clock);
  const today = inZone(after, zone).toPlainDate();
  for (let days = 0; days <= 3; days += 1) {
    const { epochMilliseconds } = today.add({ days }).toZonedDateTime({ timeZone: zone, plainTime });
    if (epochMilliseconds > after.getTime()) return new Date(epochMilliseconds);
  }
  throw new RangeError(`there is no ${clock} in ${zone}`);
}

/**
 * The next time at which a report is due: on Monday, or on the first of a month, at an hour of a zone.
 * @param after not before or at this time
 */
export function nextReportAt(
  after: Date,
  { every, clock, zone }: { readonly every: ReportRhythm; readonly clock: string; readonly zone: string },
): Date {
  let at = nextAt(after, clock, zone);
  for (let days = 0; days <= 31; days += 1) {
    const { day, dayOfWeek } = inZone(at, zone);
    if ((every === 'week' ? dayOfWeek : day) === 1) return at;
    at = nextAt(at, clock, zone);
  }
  throw new RangeError(`there is no ${every} in ${zone}`);
}

function inZone(at: Date, zone: string): Temporal.ZonedDateTime {
  return Temporal.Instant.fromEpochMilliseconds(at.getTime()).toZonedDateTimeISO(zone);
}
