import type { JobResult } from '../../api/documents.js';
import { once } from 'node:events';
import { Problem } from '../../api/problems.js';
import { stoppable, Stopped } from '../../cancellation/cancellation.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { JobItemRow, JobRow } from '../../store/models/jobs.js';
import type { Desk } from '../context/desk.js';
import { Later, type AnyWork } from './work.js';

/** A piece that was begun so often and never ended takes its process with it: it is given up. */
export const MOST_BEGUN = 3;

/** What a piece ended as, or that it waits for its time. */
export interface Ended {
  readonly state: 'done' | 'failed' | 'waiting';
  readonly result: JobResult;
  readonly dueAt?: string;
}

/** The result of a piece that came to nothing. */
export function failed({ code, detail }: Problem): JobResult {
  return { says: detail, stops: true, problem: { code, detail } };
}

/** A piece that was told to stop: it is as it was before it was begun. */
export const STOPPED: Ended = {
  state: 'waiting',
  result: { says: 'Stopped; it is still to be done.', stops: false },
};

/** A piece that ended its process again and again. */
export const GIVEN_UP: Ended = {
  state: 'failed',
  result: failed(new Problem('given-up', { times: MOST_BEGUN })),
};

/** A piece about what is in the archive: nobody works on that. */
export function isPutAway({ address }: Pick<PropertyRow, 'address'>): Ended {
  return { state: 'done', result: { says: `${address} is in the archive; nothing was done.`, stops: false } };
}

/**
 * Does one piece. @returns what it came to, whatever was thrown
 * @param work its kind; undefined where there is none any more
 * @param signal tells it to stop
 * @param report is told what nobody foresaw
 */
export async function outcomeOf(
  desk: Desk,
  work: AnyWork | undefined,
  job: JobRow,
  item: JobItemRow,
  signal: AbortSignal,
  report: (error: unknown, where: string) => void,
): Promise<Ended> {
  if (signal.aborted) return STOPPED;
  try {
    if (!work) throw new Error(`there is no work of the kind ${job.kind}`);
    const piece = {
      itemId: item.id,
      again: item.begun > 0,
      actor: { personId: job.personId ?? null },
      input: item.input,
    };
    // What does not hear of it at once goes on alone for a while: it writes and sends nothing any more.
    const result = await Promise.race([
      stoppable(signal, () => work.run(desk, piece)),
      once(signal, 'abort').then(() => Promise.reject(new Stopped())),
    ]);
    return { state: 'done', result };
  } catch (error) {
    if (signal.aborted) return STOPPED;
    if (error instanceof Later)
      return {
        state: 'waiting',
        result: { says: error.says, stops: false },
        dueAt: error.until.toISOString(),
      };
    if (error instanceof Overtaxed)
      return { state: 'failed', result: failed(new Problem('beyond-reading', { tax: error.tax })) };
    if (error instanceof Problem) return { state: 'failed', result: failed(error) };
    report(error, `${job.kind} ${item.subject}`);
    return {
      state: 'failed',
      result: failed(new Problem('internal')),
    };
  }
}
