/** An answer that was asked for, and how many milliseconds it holds; nothing where it is asked for anew the next time. */
export interface Held<T> {
  readonly value: T;
  readonly forMs: number;
}

/** Answers that hold for a while: asked for once in that time, also by those who ask while it is still under way. */
export class Remembered<T> {
  private readonly kept = new Map<string, { until: number; answer: Promise<T> }>();

  /** @param most how many are kept; the oldest go first */
  constructor(private readonly most: number) {}

  /**
   * What is remembered under `key`, or else what `ask` says. @throws what `ask` throws, which is not remembered
   */
  get(key: string, ask: () => Promise<Held<T>>): Promise<T> {
    const known = this.kept.get(key);
    if (known && known.until > performance.now()) return known.answer;
    this.kept.delete(key);
    const kept = { until: Infinity, answer: this.asked(key, ask) };
    this.kept.set(key, kept);
    const [oldest] = this.kept.keys();
    if (this.kept.size > this.most && oldest !== undefined) this.kept.delete(oldest);
    return kept.answer;
  }

  private async asked(key: string, ask: () => Promise<Held<T>>): Promise<T> {
    try {
      const { value, forMs } = await ask();
      const kept = this.kept.get(key);
      if (forMs <= 0) this.kept.delete(key);
      else if (kept) kept.until = performance.now() + forMs;
      return value;
    } catch (error) {
      this.kept.delete(key);
      throw error;
    }
  }
}
