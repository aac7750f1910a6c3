import { AsyncLocalStorage } from 'node:async_hooks';
import type { Transaction } from 'sequelize';

/**
 * What is to be written down in the same transaction as the first thing that a request writes, so that both are there or
 * neither. A request that is sent again after a crash is known by it.
 */
export class Mark {
  /** The job that the request began, if it did. */
  jobId: string | null = null;
  private isWritten = false;
  private writtenJob: string | null = null;

  /** @param write puts it down within a transaction */
  constructor(private readonly write: (transaction: Transaction, mark: Mark) => Promise<void>) {}

  /** Whether a transaction that holds it was committed. */
  get written(): boolean {
    return this.isWritten;
  }

  async putDown(transaction: Transaction): Promise<void> {
    const { jobId } = this;
    if (this.isWritten && jobId === this.writtenJob) return;
    await this.write(transaction, this);
    transaction.afterCommit(() => {
      this.isWritten = true;
      this.writtenJob = jobId;
    });
  }
}

const current = new AsyncLocalStorage<Mark | null>();

/** Does a request's work; what it writes first is marked. */
export function marked<T>(mark: Mark, work: () => Promise<T>): Promise<T> {
  return current.run(mark, work);
}

/** Begins work that goes on after a request and is none of its own. */
export function unmarked<T>(work: () => T): T {
  return current.run(null, work);
}

/** The mark of the request on whose behalf this runs; null where there is none. */
export function markNow(): Mark | null {
  return current.getStore() ?? null;
}
