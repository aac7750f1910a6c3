import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

/** Bytes of the network after which what it left behind is swept up. */
const EVERY = 1_048_576;

type Collect = (options: { type: 'minor' }) => void;
let collect: Collect | null = null;
let since = 0;

/**
 * Tells of bytes that went through and are done with. Each piece of the network lies in memory of its own beside the heap, which the engine
 * sweeps up only when some thirty megabytes of it lie about, since the heap itself hardly grows. This has the young ones swept every
 * megabyte, which takes a millisecond or less.
 */
export function wentThrough(bytes: number): void {
  since += bytes;
  if (since < EVERY) return;
  since = 0;
  collect ??= collector();
  collect({ type: 'minor' });
}

function collector(): Collect {
  setFlagsFromString('--expose-gc');
  const exposed = runInNewContext('gc') as Collect;
  setFlagsFromString('--no-expose-gc');
  return exposed;
}
