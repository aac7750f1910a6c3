import type { FastifyBaseLogger } from 'fastify';

/**
 * Errors that reached the process, outside of everything that was to catch them. Each is a fault of ours: it is logged and
 * counted, and the service goes on, since others are at work in it.
 */
export class ProcessFaults {
  private seen = 0;
  private readonly onRejection = (reason: unknown): void => {
    this.note(reason, 'a promise was rejected, and nobody took it');
  };
  private readonly onException = (error: unknown): void => {
    this.note(error, 'an error was thrown outside of everything');
  };

  constructor(private readonly logger: FastifyBaseLogger) {}

  /** How many there were. */
  get count(): number {
    return this.seen;
  }

  watch(): void {
    process.on('unhandledRejection', this.onRejection);
    process.on('uncaughtException', this.onException);
  }

  unwatch(): void {
    process.off('unhandledRejection', this.onRejection);
    process.off('uncaughtException', this.onException);
  }

  private note(error: unknown, what: string): void {
    this.seen += 1;
    this.logger.error({ err: error }, what);
  }
}
