import pRetry from 'p-retry';
import type { Transaction } from 'sequelize';
import type { Store } from '../../store/store.js';

/** What cannot be written is tried again after so many milliseconds, twice as many each time, up to the longest. */
const FIRST_PAUSE_MS = 100;
const LONGEST_PAUSE_MS = 10_000;

interface Trying {
  /** Whether there is no use in trying any more. */
  readonly isOver: () => boolean;
  /** Is told each failure, but of those that come when it is over. */
  readonly failed: (error: Error) => void;
}

/**
 * Writes something that has to be written, by statements that are the same each time, again and again while the records cannot
 * take it (a full disk, a lock held for long), until it is or `isOver`. @throws the last failure, once it is over
 */
export function untilWritten<T>(
  store: Store,
  work: (transaction: Transaction) => Promise<T>,
  { isOver, failed }: Trying,
): Promise<T> {
  return pRetry(() => store.write(work).catch(toBeTriedAgain), {
    retries: Infinity,
    minTimeout: FIRST_PAUSE_MS,
    maxTimeout: LONGEST_PAUSE_MS,
    unref: true,
    shouldRetry: () => !isOver(),
    onFailedAttempt: ({ error }) => {
      if (!isOver()) failed(error);
    },
  });
}

/** p-retry takes a TypeError for a fault of the program that no trying mends; what has to be written is tried again whatever it was. */
function toBeTriedAgain(error: unknown): never {
  throw error instanceof Error && !(error instanceof TypeError)
    ? error
    : new Error('it could not be written', { cause: error });
}
