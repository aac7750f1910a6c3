import { AsyncLocalStorage, AsyncResource } from 'node:async_hooks';
import { setMaxListeners } from 'node:events';

/** Thrown by work that was told to stop: it came to nothing, and is done another time. */
export class Stopped extends Error {
  constructor() {
    super('It was stopped.');
  }
}

/** Requests and waits that one piece of work may have under way at once. */
const MOST_LISTENERS = 100;

const current = new AsyncLocalStorage<AbortSignal>();

/** Does work that can be told to stop. Whatever it waits for, and whatever it would write, ends with the signal. */
export function stoppable<T>(signal: AbortSignal, work: () => Promise<T>): Promise<T> {
  // Each request that is under way listens: some dozens at once are no leak.
  setMaxListeners(MOST_LISTENERS, signal);
  return current.run(signal, work);
}

/**
 * Does work that has so much time and no more, and less where what it is done for is stopped.
 *
 * The timer is held until the work is over. `AbortSignal.any` of an `AbortSignal.timeout` holds it by a weak reference: where
 * memory is tidied meanwhile, it never fires, and a website that sends a byte now and then is waited for without end.
 * @param ms from now on
 * @param work gets the signal that ends with either; its reason is a TimeoutError or what the stopping gave
 */
export async function withPatience<T>(ms: number, work: (signal: AbortSignal) => Promise<T>): Promise<T> {
  const patience = new AbortController();
  const stopping = current.getStore();
  const stop = () => {
    patience.abort(stopping?.reason);
  };
  const timer = setTimeout(() => {
    patience.abort(new DOMException('The operation was aborted due to timeout', 'TimeoutError'));
  }, ms);
  if (stopping?.aborted === true) stop();
  stopping?.addEventListener('abort', stop, { once: true });
  try {
    return await work(patience.signal);
  } finally {
    clearTimeout(timer);
    stopping?.removeEventListener('abort', stop);
  }
}

/** Whether the work on whose behalf this runs was told to stop. */
export function isStopped(): boolean {
  return current.getStore()?.aborted === true;
}

/** Throws Stopped where the work on whose behalf this runs was told to stop. */
export function requireGoing(): void {
  if (isStopped()) throw new Stopped();
}

/** Work that is done by somebody else's turn, and still on behalf of the one who asked for it here. */
export function stillFor<T>(work: () => T): () => T {
  return AsyncResource.bind(work);
}

/** Begins work that goes on by itself, whatever becomes of the one on whose behalf it was begun. */
export function onItsOwn<T>(work: () => T): T {
  return current.exit(work);
}
