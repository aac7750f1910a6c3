/** How many requests we make of one host at the same time. */
const PER_HOST = 2;

/** Lets only a few requests go to one host at once; the others wait their turn. */
export class Politeness {
  private readonly busy = new Map<string, { running: number; waiting: (() => void)[] }>();

  async within<T>(host: string, work: () => Promise<T>): Promise<T> {
    const lane = this.busy.get(host) ?? { running: 0, waiting: [] };
    this.busy.set(host, lane);
    if (lane.running >= PER_HOST) await new Promise<void>((resolve) => lane.waiting.push(resolve));
    else lane.running += 1;
    try {
      return await work();
    } finally {
      const next = lane.waiting.shift();
      // The place is handed over, so that `running` stays as it is.
      if (next) next();
      else lane.running -= 1;
      if (lane.running === 0) this.busy.delete(host);
    }
  }
}
