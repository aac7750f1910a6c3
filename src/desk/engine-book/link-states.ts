import type { Clock } from '../../core/time/clock.js';
import { DAY, HOUR } from '../../core/time/duration.js';
import type { Work } from '../../engines/engine.js';
import type { LinkLog, LinkNote } from '../../engines/link/log.js';
import { LinkStateRow } from '../../store/models/accounts.js';
import type { Store } from '../../store/store.js';

/** Good news is written down no oftener than this; a change always. */
const REFRESH_MS = HOUR;
/** However far away an engine puts the time: it is asked again once a day, since it may have come back earlier. */
const LONGEST_TRUST_MS = DAY;

export interface LinkState extends LinkNote {
  readonly work: Work;
  readonly since: Date;
  readonly at: Date;
}

/** How the links to engines stand, by account and kind of work: kept in mind, and written down when it changes. */
export class LinkStates {
  private readonly known = new Map<string, Map<Work, LinkState>>();

  constructor(
    private readonly store: Store,
    private readonly clock: Clock,
  ) {}

  /** Reads what an earlier process wrote down. */
  async load(): Promise<void> {
    for (const row of await LinkStateRow.findAll()) {
      this.keep(row.accountId, {
        work: row.work as Work,
        kind: row.kind,
        says: row.says ?? null,
        until: timeIn(row.until),
        since: new Date(row.since),
        at: new Date(row.at),
      });
    }
  }

  of(accountId: string): LinkState[] {
    return [...(this.known.get(accountId)?.values() ?? [])];
  }

  /** What an engine has switched off for an account, and until when. */
  suspended(accountId: string): LinkState[] {
    const now = this.clock.now();
    return this.of(accountId).filter(
      (state) => state.kind === 'waits' && state.until !== null && state.until > now,
    );
  }

  logFor(accountId: string): LinkLog {
    return {
      pending: (work) => this.pending(accountId, work),
      note: (work, note) => this.note(accountId, work, note),
    };
  }

  private pending(accountId: string, work: Work): LinkNote | null {
    const state = this.suspended(accountId).find((one) => one.work === work);
    if (!state) return null;
    return this.clock.now().getTime() - state.at.getTime() < LONGEST_TRUST_MS ? state : null;
  }

  private async note(accountId: string, work: Work, note: LinkNote): Promise<void> {
    const at = this.clock.now();
    const before = this.known.get(accountId)?.get(work);
    const same =
      before?.kind === note.kind &&
      before.says === note.says &&
      before.until?.getTime() === note.until?.getTime();
    if (same && at.getTime() - before.at.getTime() < REFRESH_MS) return;
    const since = before?.kind === note.kind ? before.since : at;
    this.keep(accountId, { work, ...note, since, at });
    await this.store.write((transaction) =>
      LinkStateRow.upsert(
        {
          accountId,
          work,
          kind: note.kind,
          says: note.says,
          until: note.until?.toISOString() ?? null,
          since: since.toISOString(),
          at: at.toISOString(),
        },
        { transaction },
      ),
    );
  }

  private keep(accountId: string, state: LinkState): void {
    const works = this.known.get(accountId) ?? new Map<Work, LinkState>();
    works.set(state.work, state);
    this.known.set(accountId, works);
  }
}

/** A time that was written down; null where there is none, or none that a date can hold. */
function timeIn(text: string | null | undefined): Date | null {
  const time = new Date(text ?? '');
  return Number.isNaN(time.getTime()) ? null : time;
}
