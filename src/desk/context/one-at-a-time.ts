import PQueue from 'p-queue';
import { stillFor } from '../../cancellation/cancellation.js';

/** Does work that bears the same name one after the other, and everything else at once. */
export class OneAtATime {
  private readonly queues = new Map<string, PQueue>();

  async run<T>(name: string, work: () => Promise<T>): Promise<T> {
    const queue = this.queues.get(name) ?? new PQueue({ concurrency: 1 });
    this.queues.set(name, queue);
    try {
      return await queue.add(stillFor(work), { throwOnTimeout: true });
    } finally {
      if (queue.size === 0 && queue.pending === 0) this.queues.delete(name);
    }
  }
}

const sites = new OneAtATime();

/** Makes or ends enrolments of one property at one engine, after whoever does so already: each finds what the one before came to. */
export function atOneSite<T>(propertyId: string, engine: string, work: () => Promise<T>): Promise<T> {
  return sites.run(`${propertyId} ${engine}`, work);
}
