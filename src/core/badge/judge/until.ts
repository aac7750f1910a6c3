import { SECOND } from '../../time/duration.js';
import { writtenMinute } from '../../time/time-formats.js';

/**
 * The end of some seconds from when something was seen, as it is told. A span would be wrong as soon as it is read later.
 * @param seconds null where nobody knows
 */
export function untilWords(at: Date, seconds: number | null): string {
  if (seconds === null) return 'nobody knows when';
  return `${writtenMinute(new Date(at.getTime() + seconds * SECOND))} UTC`;
}
