import { registrableOf } from '../../core/address/host.js';
import { outageSince, type Reached } from '../../core/watch/outage.js';
import { isOutOfReach } from '../../core/badge/sight.js';
import { MINUTE } from '../../core/time/duration.js';
import { writtenMinute } from '../../core/time/written.js';
import { endOwnCase, openOwnCase } from '../telling/cases.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';

/** A time in which nothing could be reached from here. */
export interface Outage {
  readonly id: string;
  readonly since: string;
  /** Null while it goes on. */
  readonly until: string | null;
  readonly says: string;
}

/** Other websites that are asked where one is out of reach, and how soon again. */
const PROBES = 3;
const PROBED_AGAIN = 2 * MINUTE;
/** What comes back so soon after it was over is the same outage. */
const ONE_OUTAGE = 30 * MINUTE;
/** Looks that are remembered to tell whose fault it is. */
const REMEMBERED = 40;

/** Tells by the looks of the watch whether it is we who cannot look. */
export class Outages {
  private looks: Reached[] = [];
  private probedAt = -Infinity;

  constructor(private readonly desk: Desk) {}

  /** Takes a look into account. @param failed whether in a way that may be ours */
  async saw(host: string, failed: boolean): Promise<void> {
    const now = this.desk.clock.now();
    this.remember(host, failed);
    const open = await openOutage(this.desk);
    // One website out of reach says little of ourselves: others are asked, then and there.
    if (failed && !open && now.getTime() - this.probedAt >= PROBED_AGAIN) await this.probe(host, now);
    if (open) {
      if (!failed) await this.close(open);
      return;
    }
    const since = outageSince(this.looks, now);
    if (since) await this.open(since);
  }

  private remember(host: string, failed: boolean): void {
    const look = { at: this.desk.clock.now(), domain: registrableOf(host), failed };
    this.looks = [...this.looks.slice(-REMEMBERED), look];
  }

  /** Asks a few other websites, those that were reached last, whether they can be reached. */
  private async probe(host: string, now: Date): Promise<void> {
    this.probedAt = now.getTime();
    const rows = await this.desk.store.select<{ host: string }>(
      `SELECT host, MAX(lookedAt) AS at FROM watched WHERE why = 'rhythm' AND host <> :host GROUP BY host ORDER BY at DESC LIMIT 20`,
      { host },
    );
    const others = new Map(rows.map((one) => [registrableOf(one.host), one.host]));
    others.delete(registrableOf(host));
    await Promise.all(
      [...others.values()].slice(0, PROBES).map(async (other) => {
        const { hops } = await this.desk.net.page(`https://${other}/`);
        this.remember(other, isOutOfReach(hops.at(-1)?.failure ?? null));
      }),
    );
  }

  private async open(met: Date): Promise<void> {
    const { desk } = this;
    // One that comes and goes is one: what could not be seen since its beginning says nothing of a website.
    const last = await lastOutage(desk);
    const isSame = last?.until != null && met.getTime() - Date.parse(last.until) < ONE_OUTAGE;
    const since = isSame ? new Date(last.since) : met;
    const says = `Nothing could be reached from here since ${writtenMinute(since)}: several websites failed at once, so it is our own network or resolver.`;
    const id = newId();
    await desk.store.write(async (transaction) => {
      if (await openOutage(desk)) return;
      await desk.store.run(
        'INSERT INTO outages (id, since, until, says) VALUES (:id, :since, NULL, :says)',
        { id, since: since.toISOString(), says },
        transaction,
      );
      await openOwnCase(desk, { id, since, says }, transaction);
      await note(desk, { personId: null }, transaction, { kind: 'watch.cut-off', says });
    });
  }

  private async close({ id, since }: Outage): Promise<void> {
    const { desk } = this;
    await desk.store.write(async (transaction) => {
      const until = nowText(desk);
      const changed = await desk.store.change(
        'UPDATE outages SET until = :until WHERE id = :id AND until IS NULL',
        { id, until },
        transaction,
      );
      if (changed === 0) return;
      await endOwnCase(desk, id, transaction);
      await note(desk, { personId: null }, transaction, {
        kind: 'watch.back',
        says: `Websites can be reached again from here; they could not since ${writtenMinute(new Date(since))}. What was not seen meanwhile is looked at again.`,
      });
    });
  }
}

/** The outage that goes on; null where there is none. */
export async function openOutage({ store }: Desk): Promise<Outage | null> {
  const [row] = await store.select<Outage>('SELECT * FROM outages WHERE until IS NULL LIMIT 1');
  return row ?? null;
}

/** The newest outage, over or not. */
export async function lastOutage({ store }: Desk): Promise<Outage | null> {
  const [row] = await store.select<Outage>(
    `SELECT * FROM outages ORDER BY since DESC, ifnull(until, '9') DESC LIMIT 1`,
  );
  return row ?? null;
}
