import { once } from 'node:events';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Transaction } from 'sequelize';
import type { Job } from '../../api/documents.js';
import { onItsOwn } from '../../cancellation/cancellation.js';
import { newId } from '../../store/ids.js';
import { unmarked } from '../../store/request-mark.js';
import { bulkWrite } from '../../store/bulk-writes.js';
import { JobItemRow, JobRow, type Lane } from '../../store/models/jobs.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { GIVEN_UP, isPutAway, MOST_BEGUN, outcomeOf, STOPPED } from './endings.js';
import { DELETION, putAwayOf, underWayAbout } from './of-properties.js';
import {
  freeDue,
  takeBack,
  turnInto,
  waitingOf,
  writeBegin,
  writeEnd,
  writeJob,
  type Suspect,
} from './records.js';
import { Load } from './load.js';
import { Queue, type Taken } from './queue.js';
import { viewJob, viewProgress } from './view.js';
import { untilWritten } from './write-retry.js';
import type { AnyWork, NewPiece } from './work.js';

/** A job of more pieces than these is none that a person waits for. */
const MOST_AWAITED = 20;
/** Pieces of a job that are known to wait, so that one can be chosen among them. */
const LOOK_AHEAD = 40;
/** Milliseconds of real time between looks for pieces whose time has come. */
const LOOK_MS = 1_000;
/** How long the end of the service waits for what is under way before it is told to stop, and then for that. */
const PATIENCE_MS = 3_000;
const LAST_PATIENCE_MS = 1_000;
/** How soon it is looked again whether what was told to stop has ended. */
const AGAIN_MS = 25;

interface Prepared {
  readonly id: string;
  readonly write: (transaction: Transaction) => Promise<void>;
  readonly begin: () => void;
}

/**
 * Runs recorded work. Every piece is written down before it is begun and when it is done; what was begun
 * and not finished when the process died is begun again at the next start.
 */
export class JobRunner {
  private readonly load = new Load();
  private readonly turns = new Queue(() => this.load.isHigh());
  private readonly work: ReadonlyMap<string, AnyWork>;
  /** What tells a piece that is under way to stop. */
  private readonly stops = new Map<string, AbortController>();
  /** Jobs whose waiting pieces are being looked for. */
  private readonly looked = new Set<string>();
  /** Pieces that may have ended a process before: one at a time, so that no other is taken down with them. */
  private readonly suspects: Suspect[] = [];
  private isAlone = false;
  private stopped = false;
  private idle: (() => void)[] = [];
  private looking: NodeJS.Timeout | null = null;
  private look: Promise<void> = Promise.resolve();

  constructor(
    private readonly desk: Desk,
    work: readonly AnyWork[],
    private readonly report: (error: unknown, where: string) => void,
  ) {
    this.work = new Map(work.map((one) => [one.kind, one]));
    desk.whenPutAway.add((ids) => this.endAbout(ids));
  }

  /** Writes a job down and begins it. @returns its identifier */
  async start(kind: string, actor: Actor, pieces: readonly NewPiece[]): Promise<string> {
    const job = this.prepare(kind, actor, pieces);
    await this.desk.store.write((transaction) => job.write(transaction));
    job.begin();
    return job.id;
  }

  /** A job that is written down with what else belongs to it, and begun once that is committed. */
  prepare(kind: string, actor: Actor, pieces: readonly NewPiece[]): Prepared {
    const id = newId();
    const lane = this.laneFor(kind, pieces.length);
    return {
      id,
      write: (transaction) =>
        writeJob(
          this.desk.store,
          { id, kind, lane, personId: actor.personId, at: nowText(this.desk), pieces },
          transaction,
        ),
      begin: () => {
        this.turns.add({ id, lane, personId: actor.personId });
        this.lookAhead(id);
      },
    };
  }

  private laneFor(kind: string, pieces: number): Lane {
    return this.work.get(kind)?.lane ?? (pieces > MOST_AWAITED ? 'bulk' : 'person');
  }

  /** Takes up what an earlier process left. @returns how many pieces that is */
  async resume(): Promise<number> {
    const { jobs, suspects } = await takeBack(this.desk.store);
    this.suspects.push(...suspects);
    for (const job of jobs) this.giveTurn(job);
    this.pump();
    this.looking ??= setInterval(() => {
      this.look = this.look.then(() =>
        this.takeUpDue().catch((error: unknown) => {
          this.report(error, 'pieces whose time has come');
        }),
      );
    }, LOOK_MS).unref();
    return jobs.reduce((sum, { total, finished, resting }) => sum + total - finished - resting, 0);
  }

  /** Looks which pieces of a job wait, so that it has its turn; one that has none has no turn any more. */
  private lookAhead(jobId: string): void {
    if (this.looked.has(jobId)) return;
    this.looked.add(jobId);
    unmarked(() => onItsOwn(() => waitingOf(this.desk.store, jobId, LOOK_AHEAD)))
      .then(
        (waiting) => {
          this.turns.refill(jobId, waiting);
        },
        (error: unknown) => {
          this.report(error, `the pieces of the job ${jobId}`);
        },
      )
      .finally(() => {
        this.looked.delete(jobId);
        this.pump();
      });
  }

  /** Takes up the pieces whose time has come. */
  private async takeUpDue(): Promise<void> {
    if (this.stopped) return;
    const jobs = await freeDue(this.desk.store, nowText(this.desk));
    for (const job of jobs) this.giveTurn(job);
  }

  private giveTurn({ id, lane, personId = null }: JobRow): void {
    this.turns.add({ id, lane, personId });
    this.lookAhead(id);
  }

  /**
   * Stops a job: what is under way ends within a second and is left to be done, and nothing more of it is begun until it is
   * resumed. Throws Problem for a job that is not there, or is over.
   */
  async halt(id: string): Promise<Job> {
    await turnInto(this.desk.store, id, 'stopped', nowText(this.desk));
    this.turns.drop(id);
    for (const { piece } of this.turns.underWay(id)) this.stops.get(piece.id)?.abort();
    this.desk.events.emit('job', id);
    this.desk.events.emit(`done ${id}`);
    return viewProgress(id);
  }

  /**
   * Has what is under way about some properties end, and waits until it has: nobody works on what was put away. What waits is not begun.
   * @param ids of properties that are in the archive
   */
  private async endAbout(ids: readonly string[]): Promise<void> {
    for (let left = await underWayAbout(this.desk.store, ids); left.length > 0 && !this.stopped;) {
      for (const id of left) this.stops.get(id)?.abort();
      await sleep(AGAIN_MS);
      left = await underWayAbout(this.desk.store, ids);
    }
  }

  /** Goes on with a job that was stopped. Throws Problem. */
  async goOn(id: string): Promise<Job> {
    this.giveTurn(await turnInto(this.desk.store, id, 'waiting', nowText(this.desk)));
    this.desk.events.emit('job', id);
    return viewProgress(id);
  }

  /**
   * Begins nothing more and waits for what is under way, no longer than its patience: then that is told to stop, and is done
   * after the next start.
   */
  async stop(): Promise<void> {
    this.stopped = true;
    if (this.looking) clearInterval(this.looking);
    await this.look;
    if (await this.isIdleWithin(PATIENCE_MS)) return;
    for (const stop of this.stops.values()) stop.abort();
    await this.isIdleWithin(LAST_PATIENCE_MS);
  }

  private async isIdleWithin(ms: number): Promise<boolean> {
    if (this.turns.size === 0) return true;
    const over = new AbortController();
    const late = sleep(ms, false, { signal: over.signal }).catch(() => false);
    const idle = new Promise<boolean>((resolve) => this.idle.push(() => resolve(true)));
    const isIdle = await Promise.race([idle, late]);
    over.abort();
    return isIdle;
  }

  /** Waits until a job is done, but no longer than `ms` of real time. */
  async settled(id: string, ms: number): Promise<Job> {
    const over = new AbortController();
    const done = once(this.desk.events, `done ${id}`, { signal: over.signal });
    const late = sleep(ms, undefined, { signal: over.signal, ref: false });
    const either = Promise.race([done, late]).catch(() => undefined);
    try {
      const job = await viewProgress(id);
      if (job.state === 'waiting' || job.state === 'running') if (job.rests === null && ms > 0) await either;
      return await viewJob(id);
    } finally {
      over.abort();
    }
  }

  private pump(): void {
    // What goes on after a request is no part of it.
    unmarked(() =>
      onItsOwn(() => {
        for (let next = this.nextPiece(); next; next = this.nextPiece()) this.beginPiece(next);
      }),
    );
  }

  private nextPiece(): Taken | null {
    if (this.stopped || this.isAlone) return null;
    const [suspect] = this.suspects;
    if (!suspect) return this.turns.take();
    if (this.turns.size > 0) return null;
    this.suspects.shift();
    this.isAlone = true;
    return this.turns.begin(suspect.jobId, suspect);
  }

  private beginPiece(taken: Taken): void {
    const { piece, jobId } = taken;
    const stop = new AbortController();
    this.stops.set(piece.id, stop);
    if (taken.isLast) this.lookAhead(jobId);
    // A piece of many may be shown with the others; the one that somebody waits for at once.
    const run = () => this.runItem(piece.id, stop.signal);
    (taken.lane === 'bulk' ? bulkWrite(run) : run())
      .catch((error: unknown) => {
        if (!this.stopped) this.report(error, `job item ${piece.id}`);
      })
      .finally(() => {
        this.stops.delete(piece.id);
        this.turns.end(taken);
        this.isAlone = false;
        if (this.turns.size === 0) for (const wake of this.idle.splice(0)) wake();
        this.pump();
      });
  }

  private async runItem(id: string, signal: AbortSignal): Promise<void> {
    const item = await JobItemRow.findByPk(id, { rejectOnEmpty: true });
    const job = await JobRow.findByPk(item.jobId, { rejectOnEmpty: true });
    const begun = item.begun;
    const isGivenUp = begun >= MOST_BEGUN;
    const isOurs = await this.written(`beginning ${job.kind} ${item.subject}`, (transaction) =>
      writeBegin(item, isGivenUp ? begun : begun + 1, transaction),
    );
    // It was read as waiting while it was taken already.
    if (!isOurs) return;
    const putAway = job.kind === DELETION ? null : await putAwayOf(this.desk.store, item);
    const ended =
      putAway !== null
        ? isPutAway(putAway)
        : isGivenUp
          ? GIVEN_UP
          : await outcomeOf(this.desk, this.work.get(job.kind), job, item, signal, this.report);
    const isOver = await this.written(`ending ${job.kind} ${item.subject}`, (transaction) =>
      writeEnd(this.desk.store, job.id, id, ended, nowText(this.desk), transaction),
    );
    if (ended === STOPPED) this.lookAhead(job.id);
    const isSettled = isOver || ended.dueAt !== undefined;
    // Who waited for the job sees all that came of it.
    if (isSettled) this.desk.store.hurry();
    this.desk.events.emit('job', job.id);
    if (isSettled) this.desk.events.emit(`done ${job.id}`);
  }

  /** Writes what has to be written, until it is or the service stops; then it is done again at the next start. */
  private written<T>(what: string, work: (transaction: Transaction) => Promise<T>): Promise<T> {
    return untilWritten(this.desk.store, work, {
      isOver: () => this.stopped,
      failed: (error) => {
        this.report(error, `${what}: could not be written, and is tried again`);
      },
    });
  }
}
