import type { Hop } from '../../badge/probe/evidence.js';
import { DAY, MINUTE, SECOND } from '../../time/duration.js';

/** One page is asked for so often before its refusal counts. */
const MOST_TRIES = 6;
const FIRST_REST = 2 * SECOND;
const LONGEST_OWN_REST = MINUTE;

/**
 * How long a website wants to be left alone (429, RFC 6585 §4; 503, RFC 9110 §15.6.4): by its own word (`Retry-After`, RFC 9110 §10.2.3),
 * else twice as long each time.
 * @param tries how often the page was asked for, this time included
 * @returns milliseconds; null where the answer is none of these, or was given too often
 */
export function retryDelay(
  { status, headers }: Pick<Hop, 'status' | 'headers'>,
  tries: number,
  now: Date,
): number | null {
  if ((status !== 429 && status !== 503) || tries >= MOST_TRIES) return null;
  const asked = headers['retry-after']?.trim() ?? '';
  const told = /^\d{1,9}$/u.test(asked) ? Number(asked) * SECOND : Date.parse(asked) - now.getTime();
  if (Number.isFinite(told) && told > 0) return Math.min(Math.max(told, SECOND), DAY);
  return Math.min(FIRST_REST * 2 ** (tries - 1), LONGEST_OWN_REST);
}
