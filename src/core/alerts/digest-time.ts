import { DAY, HOUR, MINUTE } from '../time/duration.js';

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
  const [hour = 0, minute = 0] = clock.split(':').map(Number);
  const shown = clockIn(zone);
  for (let days = -1; days <= 3; days += 1) {
    const midnight = Math.floor((shown(after.getTime()) + days * DAY) / DAY) * DAY;
    const at = instantOf(midnight + hour * HOUR + minute * MINUTE, shown);
    if (at > after) return at;
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
  const shown = clockIn(zone);
  let at = nextAt(after, clock, zone);
  for (let days = 0; days <= 31; days += 1) {
    const day = new Date(shown(at.getTime()));
    if (every === 'week' ? day.getUTCDay() === 1 : day.getUTCDate() === 1) return at;
    at = nextAt(at, clock, zone);
  }
  throw new RangeError(`there is no ${every} in ${zone}`);
}

/** What a zone's clock shows at a time, to the minute: as the time at which a clock of UTC shows the same. */
type Clock = (time: number) => number;

function clockIn(zone: string): Clock {
  const format = new Intl.DateTimeFormat('en', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
  });
  return (time) => {
    const parts = format.formatToParts(time);
    const of = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0);
    return Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'));
  };
}

/** The instant at which a zone's clock shows what `wanted` is in UTC. A day before and a day after there is no more of any change. */
function instantOf(wanted: number, shown: Clock): Date {
  const offsetAt = (time: number) => shown(time) - time;
  const before = wanted - offsetAt(wanted - DAY);
  const after = wanted - offsetAt(wanted + DAY);
  return new Date(shown(before) !== wanted && shown(after) === wanted ? after : before);
}
