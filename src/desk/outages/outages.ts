import { registrableOf } from '../../core/address/host.js';
import { blindOf, outageSince, type OutageSeen, type Reached } from '../../core/watch/outage.js';
import { MINUTE } from '../../core/time/duration.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import { resolveAgencyAlert, openAgencyAlert } from '../alerts/agency-alerts.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { pageOutcome, type ProbeOutcome } from '../context/probe-outcome.js';
import type { Outage } from '../facts/outage.js';
import { chooseReferences, type Reference } from './references.js';

/** So many websites are asked at once: few, and more where none of them shows itself. */
const LOTS = [6, 12, 24];
/** How soon other websites are asked again, and how long it counts that one showed itself; in milliseconds. */
interface Asking {
  readonly again: number;
  readonly shown: number;
}
const USUAL: Asking = { again: MINUTE, shown: MINUTE / 2 };
/** Before something is held against a website that stood well. */
const NEWS: Asking = { again: -1, shown: -1 };
/** A look that hangs may end so long after others were answered. */
const HANGS_FOR = MINUTE / 2;
/** What comes back so soon after it was over is the same outage. */
const ONE_OUTAGE = 30 * MINUTE;
/** Looks that are remembered to tell whose fault it is. */
const REMEMBERED = 120;

/**
 * Tells by the looks of the watch whether it is we who cannot look. Before it says so, it asks websites on other networks, each at its own
 * front door; whatever shows itself in between speaks for us. The server of many websites that is down is not our outage.
 */
export class Outages {
  private looks: Reached[] = [];
  /** When a website showed itself last, and when others were asked last whether they do. */
  private shownAt = -Infinity;
  private askedAt = -Infinity;
  private asking: Promise<void> | null = null;
  /** When the outage that goes on was opened here. */
  private openedAt = -Infinity;

  constructor(private readonly desk: Desk) {}

  /** Takes a look into account. @returns whether what it met is no doing of its website */
  async saw(host: string, met: ProbeOutcome): Promise<boolean> {
    const look = this.remember(registrableOf(host), met);
    if (met.kind === 'itself') this.shownAt = this.now();
    const isDoubtful = () => (look === null ? met.kind === 'unknown' : this.isDoubtful(look));
    if (met.kind !== 'itself' && met.isNews) await this.ask(NEWS);
    else if (isDoubtful()) await this.ask(USUAL);
    await this.settle();
    return isDoubtful() && (await openOutage(this.desk)) !== null;
  }

  /** Asks anew while an outage goes on, whatever is due meanwhile. */
  async askAnew(): Promise<void> {
    await this.ask(USUAL);
    await this.settle();
  }

  /** Opens an outage where the looks speak for one and nobody else shows itself, and ends it where somebody does. */
  private async settle(): Promise<void> {
    const open = await openOutage(this.desk);
    if (open) {
      if (this.shownAt > this.openedAt && this.isRecent(this.shownAt, USUAL.shown)) await this.close(open);
      return;
    }
    if (!this.outageSeen()) return;
    await this.ask(NEWS);
    const seen = this.outageSeen();
    if (seen) await this.open(seen);
  }

  private outageSeen(): OutageSeen | null {
    const seen = outageSince(this.looks, this.desk.clock.now());
    // What hangs ends later than what answers, so that the order of looks does not tell.
    const isLate = seen?.isIntercepted === false && this.isRecent(this.shownAt, HANGS_FOR);
    return isLate ? null : seen;
  }

  private now(): number {
    return this.desk.clock.now().getTime();
  }

  private isRecent(time: number, span: number): boolean {
    const now = this.now();
    return now >= time && now - time <= span;
  }

  private isDoubtful(look: Reached): boolean {
    return this.blind().includes(look);
  }

  private blind(): Reached[] {
    return blindOf(this.looks, this.desk.clock.now());
  }

  private remember(domain: string, met: ProbeOutcome): Reached | null {
    if (met.kind === 'unknown') return null;
    const { mark = null, address = null } = met.kind === 'instead' ? met : {};
    const look = { at: this.desk.clock.now(), domain, address, instead: mark };
    this.looks = [...this.looks.slice(-REMEMBERED), look];
    return look;
  }

  /**
   * Asks other websites, unless one has shown itself just now; those who ask at once wait for the same answers.
   */
  private async ask({ again, shown }: Asking): Promise<void> {
    if (this.asking === null) {
      if (this.isRecent(this.shownAt, shown) || this.isRecent(this.askedAt, again)) return;
      this.askedAt = this.now();
      this.asking = this.goAround().finally(() => {
        this.asking = null;
      });
    }
    await this.asking;
  }

  /** Goes to one after the other lot of websites until one of them shows itself. */
  private async goAround(): Promise<void> {
    const failed = this.blind();
    const references = await chooseReferences(this.desk, {
      domains: new Set(failed.map(({ domain }) => domain)),
      addresses: new Set(failed.flatMap(({ address }) => address ?? [])),
    });
    let from = 0;
    for (const many of LOTS) {
      const lot = references.slice(from, from + many);
      from += many;
      const looks = await Promise.all(lot.map((one) => this.goTo(one)));
      if (!looks.some((look) => look !== null && !this.isDoubtful(look))) continue;
      this.shownAt = this.now();
      return;
    }
  }

  private async goTo({ domain, url }: Reference): Promise<Reached | null> {
    return this.remember(domain, pageOutcome(await this.desk.net.page(url), false));
  }

  private async open(met: OutageSeen): Promise<void> {
    const { desk } = this;
    // One that comes and goes is one: what could not be seen since its beginning says nothing of a website.
    const last = await lastOutage(desk);
    const isSame = last?.until != null && met.since.getTime() - Date.parse(last.until) < ONE_OUTAGE;
    const since = isSame ? new Date(last.since) : met.since;
    const says = saysOf(met, since);
    const id = newId();
    await desk.store.write(async (transaction) => {
      if (await openOutage(desk)) return;
      this.openedAt = this.now();
      await desk.store.run(
        'INSERT INTO outages (id, since, until, says) VALUES ($id, $since, NULL, $says)',
        { id, since: since.toISOString(), says },
        transaction,
      );
      await openAgencyAlert(
        desk,
        'cut-off',
        {
          ...{ cause: id, since: since.toISOString(), says, acts: 'us' },
          ...{ until: null, touches: [], isAtOnce: true },
        },
        transaction,
      );
      await note(desk, { personId: null }, transaction, { kind: 'watch.cut-off', says });
    });
  }

  private async close({ id, since }: Outage): Promise<void> {
    const { desk } = this;
    await desk.store.write(async (transaction) => {
      const until = nowText(desk);
      const changed = await desk.store.change(
        'UPDATE outages SET until = $until WHERE id = $id AND until IS NULL',
        { id, until },
        transaction,
      );
      if (changed === 0) return;
      await resolveAgencyAlert(desk, { kind: 'cut-off', cause: id }, transaction);
      await note(desk, { personId: null }, transaction, {
        kind: 'watch.back',
        says: `Websites can be reached again from here; they could not since ${writtenMinute(new Date(since))}. What was not seen meanwhile is looked at again.`,
      });
    });
  }
}

function saysOf({ isIntercepted, network }: OutageSeen, since: Date): string {
  const when = writtenMinute(since);
  if (isIntercepted)
    return `Since ${when} the same answer comes for every website that is asked from here: something in our own network answers in their place, such as a sign-in page or a resolver that lies. Nothing of it is held against a website.`;
  if (network !== null)
    return `Nothing could be reached from here since ${when}. All that was tried stands in one network, ${network}: it is that one or our own.`;
  return `Nothing could be reached from here since ${when}: several websites failed at once, so it is our own network or resolver.`;
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
