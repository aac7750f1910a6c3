import type { JobResult } from '../../api/documents.js';
import type { Overtaxed } from '../../readers/overtaxed.js';

/** A piece that was begun so often and never ended takes its process with it: it is given up. */
export const MOST_BEGUN = 3;

/** What a piece ended as, or that it waits for its time. */
export interface Ended {
  readonly state: 'done' | 'failed' | 'waiting';
  readonly result: JobResult;
  readonly dueAt?: string;
}

/** The result of a piece that came to nothing. */
export function failed(code: string, detail: string): JobResult {
  return { says: detail, stops: true, problem: { code, detail } };
}

/** What is said of a piece whose reading took more than is allowed. */
export function beyond({ tax }: Overtaxed): string {
  return `What answered took more ${tax} to be read than is allowed for anything: far more than an engine would take. Nothing is known of it; the one who made it should look at it.`;
}

/** A piece that was told to stop: it is as it was before it was begun. */
export const STOPPED: Ended = {
  state: 'waiting',
  result: { says: 'Stopped; it is still to be done.', stops: false },
};

/** A piece that ended its process again and again. */
export const GIVEN_UP: Ended = {
  state: 'failed',
  result: failed(
    'given-up',
    `It was begun ${String(MOST_BEGUN)} times and never ended: each time the service ended with it. It is given up, so that the rest goes on; what it works on may be more than can be read.`,
  ),
};
