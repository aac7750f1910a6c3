import type { ReportRhythm } from './report.js';
import { DAY, HOUR } from '../time/duration.js';

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
 * The next time at which it is so late in a zone, after some time. Where the hour does not exist on a day (a change to summer time), it
 * is the first that does.
 * @param after not before or at this time
 * @param clock `07:30`
 * @param zone by its IANA name
 */
export function nextAt(after: Date, clock: string, zone: string): Date {
  const [hour = 0, minute = 0] = clock.split(':').map(Number);
  for (let days = -1; days <= 3; days += 1) {
    const day = partsIn(new Date(after.getTime() + days * DAY), zone);
    const wanted = Date.UTC(day.year, day.month - 1, day.day, hour, minute);
    const at = instantOf(wanted, zone);
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
  let at = nextAt(after, clock, zone);
  for (let days = 0; days <= 31; days += 1) {
    const { year, month, day } = partsIn(at, zone);
    const isMonday = new Date(Date.UTC(year, month - 1, day)).getUTCDay() === 1;
    if (every === 'week' ? isMonday : day === 1) return at;
    at = nextAt(at, clock, zone);
  }
  throw new RangeError(`there is no ${every} in ${zone}`);
}

/** The instant at which a zone's clock shows what `wanted` is in UTC. */
function instantOf(wanted: number, zone: string): Date {
  const offsetAt = (time: number): number => {
    const { year, month, day, hour, minute } = partsIn(new Date(time), zone);
    return Date.UTC(year, month - 1, day, hour, minute) - Math.floor(time / 60_000) * 60_000;
  };
  const first = wanted - offsetAt(wanted);
  const second = wanted - offsetAt(first);
  // In the hour that is left out both are wrong by the same; the later is the first that exists.
  return new Date(Math.abs(second - first) > 2 * HOUR ? first : Math.max(second, wanted - offsetAt(second)));
}

interface Parts {
  readonly year: number;
  readonly month: number;
  readonly day: number;
  readonly hour: number;
  readonly minute: number;
}

function partsIn(time: Date, zone: string): Parts {
  const parts = new Intl.DateTimeFormat('en', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
  }).formatToParts(time);
  const of = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0);
  return { year: of('year'), month: of('month'), day: of('day'), hour: of('hour'), minute: of('minute') };
}
