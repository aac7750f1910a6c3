import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import type { Clock } from '../core/time/clock.js';
import type { Store } from './store.js';

/** How often the holder says that it is alive, and after how long without a word it counts as gone. Milliseconds. */
const BEAT_MS = 3_000;
const GONE_MS = 15_000;

/** Another service holds the records; for the one who starts a second. */
export class RecordsHeld extends Error {}

interface Row {
  readonly holder: string;
  readonly host: string;
  readonly pid: number;
  readonly beatAt: number;
}

/**
 * Which process works on the records: one at a time, else what one is doing the other would do again. The holder is known
 * by a word of its own and beats as long as it lives; after `kill -9` its process is seen to be gone, or its beats stop.
 */
export class Lease {
  private readonly holder = randomUUID();
  private timer: NodeJS.Timeout | null = null;
  private beat: Promise<void> = Promise.resolve();

  private constructor(
    private readonly store: Store,
    private readonly clock: Clock,
    private readonly onLost: () => void,
  ) {}

  /**
   * @param clock the machine's: processes compare by it
   * @param onLost called once when another process has taken the records over
   * @throws RecordsHeld with who has them
   */
  static async take(store: Store, clock: Clock, onLost: () => void): Promise<Lease> {
    const lease = new Lease(store, clock, onLost);
    await store.write(async (transaction) => {
      const [row] = await store.select<Row>(
        'SELECT holder, host, pid, beatAt FROM lease WHERE id = 1',
        {},
        transaction,
      );
      const now = clock.now().getTime();
      if (row && isAlive(row, now))
        throw new RecordsHeld(
          `These records are in use by another service (process ${String(row.pid)} on ${row.host}). Stop that one first; two would do everything twice.`,
        );
      await store.run(
        'INSERT INTO lease (id, holder, host, pid, beatAt) VALUES (1, :holder, :host, :pid, :now) ON CONFLICT (id) DO UPDATE SET holder = :holder, host = :host, pid = :pid, beatAt = :now',
        { holder: lease.holder, host: hostname(), pid: process.pid, now },
        transaction,
      );
    });
    lease.timer = setInterval(() => {
      lease.beat = lease.beat.then(() => lease.sayAlive());
    }, BEAT_MS);
    lease.timer.unref();
    return lease;
  }

  /** Gives the records back, so that another may begin at once. */
  async release(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.beat;
    await this.store.write((transaction) =>
      this.store.run('DELETE FROM lease WHERE holder = :holder', { holder: this.holder }, transaction),
    );
  }

  private async sayAlive(): Promise<void> {
    try {
      const changed = await this.store.write((transaction) =>
        this.store.change(
          'UPDATE lease SET beatAt = :now WHERE holder = :holder',
          { now: this.clock.now().getTime(), holder: this.holder },
          transaction,
        ),
      );
      if (changed > 0) return;
      if (this.timer) clearInterval(this.timer);
      this.onLost();
    } catch {
      // A beat that could not be written is made up for by the next.
    }
  }
}

function isAlive({ host, pid, beatAt }: Row, now: number): boolean {
  if (host === hostname() && !isRunning(pid)) return false;
  // A clock that was put back would make it seem alive for ever.
  return Math.abs(now - beatAt) < GONE_MS;
}

/** Whether a process of this machine is there. One with our own number is not the one that wrote it: it is us. */
function isRunning(pid: number): boolean {
  if (pid === process.pid) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
