import { randomUUID } from 'node:crypto';
import { readFileSync, readlinkSync } from 'node:fs';
import { hostname } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Transaction } from 'sequelize';
import type { Clock } from '../core/time/clock.js';
import { Explained } from '../core/input/explained-error.js';
import type { Store } from './store.js';

/** How often the holder says that it is alive, and after how long without a word it counts as gone. Milliseconds. */
const BEAT_MS = 3_000;
const GONE_MS = 15_000;

/** Another service holds the records; for the one who starts a second. */
export class RecordsHeld extends Explained {}

/** Another service has taken the records over: this one may neither write nor send. */
export class RecordsLost extends Error {
  constructor() {
    super('Another process has taken the records over.');
  }
}

interface Row {
  readonly holder: string;
  readonly host: string;
  readonly pid: number;
  readonly beatAt: number;
}

/**
 * Which process works on the records: one at a time, else what one is doing the other would do again. The holder is known
 * by a word of its own and beats as long as it lives; after `kill -9` its process is seen to be gone, or its beats stop. Each transaction
 * proves that it still holds them, so that one which slept through its own end writes nothing.
 */
export class Lease {
  private readonly holder = randomUUID();
  private timer: NodeJS.Timeout | null = null;
  private beat: Promise<void> = Promise.resolve();
  private isLost = false;

  private constructor(
    private readonly store: Store,
    private readonly clock: Clock,
    private readonly onLost: () => void,
    private readonly goneMs: number,
  ) {}

  /**
   * @param clock the machine's: processes compare by it
   * @param onLost called once when another process has taken the records over
   * @param goneMs after how long without a word a holder counts as gone
   * @throws RecordsHeld with who has them
   */
  static async take(store: Store, clock: Clock, onLost: () => void, goneMs = GONE_MS): Promise<Lease> {
    const lease = new Lease(store, clock, onLost, goneMs);
    const held = await lease.tryTake(null);
    if (held !== null) {
      // Of a process elsewhere nobody can tell whether it is there: its silence does.
      if (!isElsewhere(held)) throw new RecordsHeld(inUse(held));
      await sleep(goneMs);
      if ((await lease.tryTake(held.beatAt)) !== null) throw new RecordsHeld(inUse(held));
    }
    store.fenceBy((transaction) => lease.prove(transaction));
    lease.timer = setInterval(() => {
      lease.beat = lease.beat.then(() => lease.sayAlive());
    }, BEAT_MS);
    lease.timer.unref();
    return lease;
  }

  /**
   * Takes the records unless somebody else lives on them.
   * @param silentSince the last beat of one that was waited for: with no other since, it is gone, whatever the clocks say
   * @returns who has them; null where they are ours now
   */
  private tryTake(silentSince: number | null): Promise<Row | null> {
    return this.store.write(async (transaction) => {
      const [row] = await this.store.select<Row>(
        'SELECT holder, host, pid, beatAt FROM lease WHERE id = 1',
        {},
        transaction,
      );
      const now = this.clock.now().getTime();
      if (row && row.beatAt !== silentSince && isAlive(row, now, this.goneMs)) return row;
      await this.store.run(
        'INSERT INTO lease (id, holder, host, pid, beatAt) VALUES (1, $holder, $host, $pid, $now) ON CONFLICT (id) DO UPDATE SET holder = $holder, host = $host, pid = $pid, beatAt = $now',
        { holder: this.holder, host: WHERE, pid: process.pid, now },
        transaction,
      );
      return null;
    });
  }

  /** Throws RecordsLost where another has taken the records over. */
  private async prove(transaction: Transaction | null): Promise<void> {
    if (!this.isLost) {
      const [row] = await this.store.select<{ holder: string }>(
        'SELECT holder FROM lease WHERE id = 1',
        {},
        transaction,
      );
      if (row?.holder === this.holder) return;
      this.lose();
    }
    throw new RecordsLost();
  }

  private lose(): void {
    if (this.isLost) return;
    this.isLost = true;
    if (this.timer) clearInterval(this.timer);
    this.onLost();
  }

  /** Gives the records back, so that another may begin at once. */
  async release(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.beat;
    if (this.isLost) return;
    await this.store.write((transaction) =>
      this.store.run('DELETE FROM lease WHERE holder = $holder', { holder: this.holder }, transaction),
    );
    this.store.fenceBy(null);
  }

  private async sayAlive(): Promise<void> {
    try {
      await this.store.write((transaction) =>
        this.store.run(
          'UPDATE lease SET beatAt = $now WHERE holder = $holder',
          { now: this.clock.now().getTime(), holder: this.holder },
          transaction,
        ),
      );
    } catch {
      // A beat that could not be written is made up for by the next.
    }
  }
}

/**
 * Where this process runs, so that its number means something there: the machine since it was started, and the space of process numbers. A
 * container has one of its own, whatever its host is called; where nobody says, the host's name has to do.
 */
const WHERE = [
  hostname(),
  said(() => readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()),
  said(() => readlinkSync('/proc/self/ns/pid')),
]
  .join(' ')
  .trim();

function said(read: () => string): string {
  try {
    return read();
  } catch {
    return '';
  }
}

function isElsewhere({ host }: Row): boolean {
  return host !== WHERE;
}

function isAlive(row: Row, now: number, goneMs: number): boolean {
  if (!isElsewhere(row) && !isRunning(row.pid)) return false;
  // A clock that was put back would make it seem alive for ever.
  return Math.abs(now - row.beatAt) < goneMs;
}

function inUse({ pid, host }: Row): string {
  return `These records are in use by another service (process ${String(pid)} on ${host.split(' ')[0] ?? ''}). Stop that one first; two would do everything twice.`;
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
