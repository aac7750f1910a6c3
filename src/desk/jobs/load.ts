import { performance, type EventLoopUtilization } from 'node:perf_hooks';

/** Milliseconds over which it is told how busy the process is. */
const SPAN_MS = 200;
/** Part of the time that the process computes, from which on more work at once would only make everything wait. */
const BUSY = 0.75;

/** Tells whether the process has more to compute than to wait for. */
export class Load {
  private since: EventLoopUtilization = performance.eventLoopUtilization();
  private at = performance.now();
  private busy = false;

  isHigh(): boolean {
    if (performance.now() - this.at >= SPAN_MS) {
      const until = performance.eventLoopUtilization();
      this.busy = performance.eventLoopUtilization(until, this.since).utilization >= BUSY;
      this.since = until;
      this.at = performance.now();
    }
    return this.busy;
  }
}
