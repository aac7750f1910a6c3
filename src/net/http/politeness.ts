import { setTimeout as sleep } from 'node:timers/promises';
import PQueue from 'p-queue';
import { stillFor } from '../../cancellation/cancellation.js';
import type { Hop } from '../../core/badge/probe/evidence.js';

/** How many requests we make of one host at the same time, where nobody knows that it bears more. */
const PER_HOST = 2;
/** A host that asks for patience gets it, up to so many milliseconds a request; a longer wait is told, not sat out. */
const LONGEST_PATIENCE_MS = 3_000;

interface Lane {
  readonly queue: PQueue;
  /** Until when the host wants to be left alone, by the machine's own steady clock. */
  quietUntil: number;
}

/** Lets only a few requests go to one host at once, and fewer still where it asks for patience (RFC 9110 §10.2.3). */
export class Politeness {
  private readonly lanes = new Map<string, Lane>();

  /** @param atOnce how many requests the host bears, where that is more */
  async within<T extends { readonly hop: Hop }>(
    host: string,
    work: () => Promise<T>,
    atOnce = PER_HOST,
  ): Promise<T> {
    const lane = this.lanes.get(host) ?? { queue: new PQueue({ concurrency: PER_HOST }), quietUntil: 0 };
    this.lanes.set(host, lane);
    if (atOnce > lane.queue.concurrency) lane.queue.concurrency = atOnce;
    try {
      return await lane.queue.add(
        stillFor(async () => {
          const quiet = lane.quietUntil - performance.now();
          if (quiet > 0) await sleep(quiet);
          const result = await work();
          const patience = patienceMs(result.hop);
          if (patience > 0) lane.quietUntil = performance.now() + patience;
          return result;
        }),
        { throwOnTimeout: true },
      );
    } finally {
      const isIdle = lane.queue.size === 0 && lane.queue.pending === 0;
      if (isIdle && lane.quietUntil <= performance.now()) this.lanes.delete(host);
    }
  }
}

/** How long an answer asks us to wait before the next request, within bounds. */
function patienceMs({ status, headers }: Hop): number {
  if (status !== 429 && status !== 503) return 0;
  const seconds = Number(headers['retry-after'] ?? '1');
  return Number.isFinite(seconds) ? Math.min(seconds * 1000, LONGEST_PATIENCE_MS) : LONGEST_PATIENCE_MS;
}
