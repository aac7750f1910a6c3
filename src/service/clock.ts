import { readFileSync, statSync } from 'node:fs';
import type { Clock } from '../core/time/clock.js';
import { machineClock } from '../net/time/machine-clock.js';

/** What a clock file says: at the real time `from` it was `shown`, and since then it runs `rate` times as fast. */
export interface ClockFile {
  readonly from: string;
  readonly shown: string;
  readonly rate: number;
}

/** A clock that another process sets through a file; read again whenever the file has changed. */
export function fileClock(file: string): Clock {
  let read: { at: number; from: number; shown: number; rate: number } | null = null;
  return {
    now() {
      const changed = statSync(file).mtimeMs;
      if (read?.at !== changed) {
        const data = JSON.parse(readFileSync(file, 'utf8')) as ClockFile;
        read = { at: changed, from: Date.parse(data.from), shown: Date.parse(data.shown), rate: data.rate };
      }
      return new Date(read.shown + (machineClock.now().getTime() - read.from) * read.rate);
    },
  };
}
