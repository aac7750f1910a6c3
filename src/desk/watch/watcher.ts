import { MINUTE } from '../../core/time/duration.js';
import type { Watched } from '../../core/watch/rhythm.js';
import { nowText, type Desk } from '../context/desk.js';
import type { JobRunner } from '../jobs/runner.js';
import type { NewPiece } from '../jobs/work.js';
import type { Projections } from '../projections/projections.js';
import type { LookInput } from './watch-work.js';
import { makeDue } from '../renewals/schedule.js';
import { openOutage, type Outages } from '../outages/outages.js';
import { NOT_PAUSED } from '../context/pauses.js';
import { Rounds } from '../context/rounds.js';

/** Of the desk's time: what is due sooner waits for the next round. Short, so that a round is soon over and keeps nobody waiting. */
const ROUND = MINUTE / 4;
/** Looks in one round at the least, and how many times the usual number where much is overdue: it is caught up with, but not at once. */
const LEAST_AT_ONCE = 15;
const CATCHING_UP = 4;
const ROUNDS_A_DAY = (24 * 60 * MINUTE) / ROUND;
/** While nothing can be reached from here, so many websites are tried in a round. */
const PROBES = 3;
/** No more is begun while so many looks are still to be taken. */
const MOST_OPEN = 400;

/** What was looked at and is not yet derived anew is due by what was before: it is left to the next round. */
const NOT_STALE = 'NOT EXISTS (SELECT 1 FROM stale s WHERE s.propertyId = w.propertyId)';

interface Due {
  readonly id: string;
  readonly what: Watched;
  readonly subject: string;
  readonly input: string;
  readonly host: string;
  readonly engine: string | null;
  readonly dueAt: string;
}

/** Has looked at what is due, round by round. The schedule is in the records: whichever process runs goes on with it. */
export class Watcher {
  private readonly rounds: Rounds;
  /** When the last round was, by the desk's clock. */
  private lastRound = -Infinity;
  private lastTurn = -Infinity;

  constructor(
    private readonly desk: Desk,
    private readonly jobs: JobRunner,
    private readonly kept: Projections,
    private readonly outages: Outages,
    report: (error: unknown) => void,
    /** Milliseconds of real time between two looks at what is due. */
    tickMs: number,
  ) {
    this.rounds = new Rounds(() => this.lookAround(), report, tickMs);
  }

  start(): void {
    if (this.desk.watch.on) this.rounds.start();
  }

  stop(): Promise<void> {
    return this.rounds.stop();
  }

  /** Begins what is due, once in a while by the desk's clock; one that was put back begins anew. */
  private async lookAround(): Promise<void> {
    const since = this.desk.clock.now().getTime() - this.lastRound;
    if (since >= 0 && since < ROUND) return;
    const { store, clock } = this.desk;
    const now = nowText(this.desk);
    // What turns by time alone is brought up to date by nobody else, while nobody looks at it.
    if (Math.abs(clock.now().getTime() - this.lastTurn) >= ROUND) {
      this.lastTurn = clock.now().getTime();
      await this.kept.all();
    }
    await makeDue(this.desk, this.jobs);
    if (await openOutage(this.desk)) await this.outages.askAnew();
    const [any] = await store.select(
      `SELECT 1 FROM watched w WHERE w.dueAt <= $now AND ${NOT_STALE} AND ${NOT_PAUSED} LIMIT 1`,
      { now },
    );
    if (!any) return;
    this.lastRound = clock.now().getTime();
    const open = await store.select<{ id: string }>(
      `SELECT i.input->>'id' AS id FROM jobs j JOIN job_items i ON i.jobId = j.id AND i.state IN ('waiting', 'running')
        WHERE j.kind IN ('watch', 'watch-read') AND j.state IN ('waiting', 'running', 'stopped')`,
    );
    if (open.length >= MOST_OPEN) return;
    const due = await this.due(now, open);
    await this.begin(
      'watch',
      due.filter(({ what }) => what !== 'sitemap'),
    );
    await this.begin(
      'watch-read',
      due.filter(({ what }) => what === 'sitemap'),
    );
  }

  /** What is due, the most urgent first; only a few of other websites while nothing can be reached from here. */
  private async due(now: string, open: readonly { readonly id: string }[]): Promise<Due[]> {
    const { store } = this.desk;
    const isCutOff = (await openOutage(this.desk)) !== null;
    const [all] = await store.select<{ count: number }>('SELECT COUNT(*) AS count FROM watched');
    const usual = Math.ceil(((all?.count ?? 0) / ROUNDS_A_DAY) * CATCHING_UP);
    const rows = await store.select<Due>(
      `SELECT w.id, w.what, w.subject, w.input, w.host, w.engine, w.dueAt FROM watched w LEFT JOIN watch_tries t ON t.id = w.id
        WHERE w.dueAt <= $now AND coalesce(t.notBefore, '') <= $now AND ${NOT_STALE} AND ${NOT_PAUSED}
          AND w.id NOT IN (SELECT value FROM json_each($open))
        ORDER BY w.urgency, w.dueAt, w.id LIMIT $most`,
      {
        now,
        open: JSON.stringify(open.map(({ id }) => id)),
        most: Math.max(LEAST_AT_ONCE, usual),
      },
    );
    if (!isCutOff) return rows;
    const hosts = new Map(rows.map((one) => [one.host, one]));
    return open.length > 0
      ? []
      : [...hosts.values()].filter(({ what }) => what !== 'sitemap').slice(0, PROBES);
  }

  private async begin(kind: string, due: readonly Due[]): Promise<void> {
    if (due.length === 0) return;
    const pieces = due.map((one): NewPiece<LookInput> => {
      const own = JSON.parse(one.input) as Pick<LookInput, 'what'>;
      return {
        subject: one.subject,
        input: { id: one.id, host: one.host, dueAt: one.dueAt, ...own },
        host: one.host,
        ...(one.engine === null ? {} : { engine: one.engine }),
      };
    });
    await this.jobs.start(kind, { personId: null }, pieces);
  }
}
