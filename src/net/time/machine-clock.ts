import type { Clock } from '../../core/time/clock.js';

/** The machine's own clock: the one place that reads it. Everything else is handed a clock, so that no test depends on the day. */
export const machineClock: Clock = { now: () => new Date() };
