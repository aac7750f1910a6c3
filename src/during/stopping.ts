import { AsyncLocalStorage, AsyncResource } from 'node:async_hooks';

/** Thrown by work that was told to stop: it came to nothing, and is done another time. */
export class Stopped extends Error {
  constructor() {
    super('It was stopped.');
  }
}

const current = new AsyncLocalStorage<AbortSignal>();

/** Does work that can be told to stop. Whatever it waits for, and whatever it would write, ends with the signal. */
export function stoppable<T>(signal: AbortSignal, work: () => Promise<T>): Promise<T> {
  return current.run(signal, work);
}

/** The signal of the work on whose behalf this runs, with other ends of patience. */
export function untilStopped(...others: readonly AbortSignal[]): AbortSignal {
  const signal = current.getStore();
  return AbortSignal.any(signal ? [...others, signal] : [...others]);
}

/** Throws Stopped where the work on whose behalf this runs was told to stop. */
export function requireGoing(): void {
  if (current.getStore()?.aborted === true) throw new Stopped();
}

/** Work that is done by somebody else's turn, and still on behalf of the one who asked for it here. */
export function stillFor<T>(work: () => T): () => T {
  return AsyncResource.bind(work);
}

/** Begins work that goes on by itself, whatever becomes of the one on whose behalf it was begun. */
export function onItsOwn<T>(work: () => T): T {
  return current.exit(work);
}
