/** Does work that bears the same name one after the other, and everything else at once. */
export class OneAtATime {
  private readonly last = new Map<string, Promise<unknown>>();

  async run<T>(name: string, work: () => Promise<T>): Promise<T> {
    const before = this.last.get(name) ?? Promise.resolve();
    const own = before.then(work, work);
    this.last.set(name, own);
    try {
      return await own;
    } finally {
      if (this.last.get(name) === own) this.last.delete(name);
    }
  }
}

const sites = new OneAtATime();

/** Makes or ends enrolments of one property at one engine, after whoever does so already: each finds what the one before came to. */
export function atOneSite<T>(propertyId: string, engine: string, work: () => Promise<T>): Promise<T> {
  return sites.run(`${propertyId} ${engine}`, work);
}
