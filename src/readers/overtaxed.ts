/** What something took too much of. */
export type Tax = 'time' | 'memory';

/** Reading something took more than is allowed for it: the thread that read it was ended, and nothing else was harmed. */
export class Overtaxed extends Error {
  constructor(readonly tax: Tax) {
    super(`it took more ${tax} to read than is allowed`);
  }
}

/** Tells an error of the pool that stands for a bound from one that is a fault of ours, which is handed on as it is. */
export function asOvertaxed(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  if (error.name === 'AbortError') return new Overtaxed('time');
  const code = 'code' in error ? String(error.code) : '';
  return code === 'ERR_WORKER_OUT_OF_MEMORY' ? new Overtaxed('memory') : error;
}
