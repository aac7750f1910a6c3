import { AsyncLocalStorage } from 'node:async_hooks';

const current = new AsyncLocalStorage<true>();

/** Does one of many pieces of work: what it writes may be shown a moment later, together with what others write. */
export function bulkWrite<T>(work: () => T): T {
  return current.run(true, work);
}

/** Whether what is written here may be shown a moment later. */
export function isBulkWrite(): boolean {
  return current.getStore() === true;
}
