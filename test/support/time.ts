import type { Clock } from '../../src/core/time/clock.js';

/**
 * When every stage begins: a Wednesday morning, far enough ahead that what is dated by it has not run out by the clock of the
 * machine (a browser's cookies, a certificate that OpenSSL judges).
 */
export const STAGE_TIME = new Date('2033-05-18T09:00:00.000Z');

/** A clock that stands still there. */
export const stageClock: Clock = { now: () => new Date(STAGE_TIME) };
