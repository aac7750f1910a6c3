/** Work that is done again and again, one round at a time: a tick that comes while a round is under way begins none. */
export class Rounds {
  private timer: NodeJS.Timeout | null = null;
  private round: Promise<void> = Promise.resolve();
  private isUnderWay = false;

  /**
   * @param work of one round
   * @param report gets what a round failed by; the next one comes all the same
   * @param tickMs milliseconds of real time between two ticks
   */
  constructor(
    private readonly work: () => Promise<void>,
    private readonly report: (error: unknown) => void,
    private readonly tickMs: number,
  ) {}

  /** The process may end beside it. */
  start(): void {
    this.timer ??= setInterval(() => {
      this.tick();
    }, this.tickMs).unref();
  }

  /** Begins no more rounds, and waits for the one that is under way. */
  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.round;
  }

  private tick(): void {
    if (this.isUnderWay) return;
    this.isUnderWay = true;
    this.round = this.work()
      .catch(this.report)
      .finally(() => {
        this.isUnderWay = false;
      });
  }
}
