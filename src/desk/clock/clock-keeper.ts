import { MINUTE } from '../../core/time/duration.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { Rounds } from '../context/rounds.js';
import { correctAhead } from './correct-ahead.js';

/** How often the time is written down, and how far back a clock may go before it counts as put back. */
const WRITTEN_EVERY = MINUTE;
const PUT_BACK = 5 * MINUTE;

/** Notices that the clock was ahead and is right again, and that what was to end has ended: an end stays one, whatever the clock says later. */
export class ClockKeeper {
  private readonly rounds: Rounds;
  private writtenAt = -Infinity;

  constructor(
    private readonly desk: Desk,
    report: (error: unknown) => void,
    /** Milliseconds of real time between two looks at the clock. */
    tickMs: number,
  ) {
    this.rounds = new Rounds(() => this.look(), report, tickMs);
  }

  /** Looks at the clock at once, and from then on. */
  async start(): Promise<void> {
    await this.look();
    this.rounds.start();
  }

  stop(): Promise<void> {
    return this.rounds.stop();
  }

  private async look(): Promise<void> {
    const now = this.desk.clock.now().getTime();
    if (now >= this.writtenAt && now - this.writtenAt < WRITTEN_EVERY) return;
    const [seen] = await this.desk.store.select<{ at: string }>('SELECT at FROM clock_seen WHERE id = 1');
    const latest = seen ? Date.parse(seen.at) : now;
    if (latest - now > PUT_BACK) await this.putBack(new Date(latest));
    await this.writeDown();
    this.writtenAt = now;
  }

  private writeDown(): Promise<void> {
    const { store } = this.desk;
    return store.writeQuietly(async (transaction) => {
      const now = nowText(this.desk);
      await store.run(
        'INSERT INTO clock_seen (id, at) VALUES (1, $now) ON CONFLICT (id) DO UPDATE SET at = $now',
        { now },
        transaction,
      );
      await store.run(
        'UPDATE keys SET endedAt = expiresAt WHERE endedAt IS NULL AND expiresAt <= $now',
        { now },
        transaction,
      );
    });
  }

  private putBack(latest: Date): Promise<void> {
    const { desk } = this;
    return desk.store.write(async (transaction) => {
      const count = await correctAhead(desk, transaction);
      await note(desk, { personId: null }, transaction, {
        kind: 'clock.back',
        says: `The clock had come to ${writtenMinute(latest)} and is ${writtenMinute(desk.clock.now())} again (UTC). ${String(count)} times on record that lay ahead were set to now, so that everything is looked at again.`,
      });
    });
  }
}
