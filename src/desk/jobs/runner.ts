import { once } from 'node:events';
import { setTimeout as sleep } from 'node:timers/promises';
import pRetry from 'p-retry';
import type { Transaction } from 'sequelize';
import type { Job } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { onItsOwn } from '../../during/stopping.js';
import { newId } from '../../store/ids.js';
import { markNow, unmarked } from '../../store/marks.js';
import { JobItemRow, JobRow, type Lane } from '../../store/models/jobs.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { GIVEN_UP, MOST_BEGUN, outcomeOf, writeEnd } from './endings.js';
import { Turns, type Taken, type Waiting } from './turns.js';
import { viewJob, viewProgress } from './view.js';
import { itemValues, type AnyWork, type NewPiece } from './work.js';

/** A job of more pieces than these is none that a person waits for. */
const MOST_AWAITED = 20;
/** Pieces of a job that are known to wait, so that one can be chosen among them. */
const LOOK_AHEAD = 40;
/** Milliseconds of real time between looks for pieces whose time has come. */
const LOOK_MS = 1_000;
/** What cannot be written is tried again after so many milliseconds, twice as many each time, up to the longest. */
const FIRST_PAUSE_MS = 100;
const LONGEST_PAUSE_MS = 10_000;
/** How long the end of the service waits for what is under way before it is told to stop, and then for that. */
const PATIENCE_MS = 3_000;
const LAST_PATIENCE_MS = 1_000;

type Suspect = Waiting & { readonly jobId: string };

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
  private readonly turns = new Turns();
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
      write: async (transaction) => {
        const createdAt = nowText(this.desk);
        const empty = pieces.length === 0;
        await JobRow.create(
          {
            id,
            kind,
            state: empty ? 'done' : 'waiting',
            personId: actor.personId,
            createdAt,
            finishedAt: empty ? createdAt : null,
            lane,
            total: pieces.length,
            resting: pieces.filter(({ dueAt }) => dueAt !== undefined).length,
          },
          { transaction },
        );
        await this.desk.store.insert(
          'job_items',
          pieces.map((piece, seq) => itemValues(id, piece, seq)),
          transaction,
        );
        const mark = markNow();
        if (mark) mark.jobId = id;
      },
      begin: () => {
        this.turns.add({ id, lane, personId: actor.personId });
        this.lookAhead(id);
      },
    };
  }

  private laneFor(kind: string, pieces: number): Lane {
    if (this.work.get(kind)?.isLong === true) return 'long';
    return pieces > MOST_AWAITED ? 'bulk' : 'person';
  }

  /** Takes up what an earlier process left. @returns how many pieces that is */
  async resume(): Promise<number> {
    const { store } = this.desk;
    await store.write((transaction) =>
      JobItemRow.update({ state: 'waiting' }, { where: { state: 'running' }, transaction }),
    );
    const jobs = await JobRow.findAll({
      where: { state: ['waiting', 'running'] },
      order: ['createdAt', 'id'],
    });
    // Several were under way when a process died: the first time each is only tried again, the second time by itself.
    const suspects = await store.select<Suspect>(
      `SELECT id, jobId, host, engine FROM job_items WHERE state = 'waiting' AND begun >= ${String(MOST_BEGUN - 1)}
         AND dueAt IS NULL AND jobId IN (SELECT id FROM jobs WHERE state IN ('waiting', 'running')) ORDER BY jobId, seq`,
    );
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
    unmarked(() => onItsOwn(() => this.waitingOf(jobId)))
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

  private waitingOf(jobId: string): Promise<Waiting[]> {
    return this.desk.store.select<Waiting>(
      `SELECT id, host, engine FROM job_items WHERE jobId = :jobId AND state = 'waiting' AND dueAt IS NULL
         AND begun < ${String(MOST_BEGUN - 1)} ORDER BY seq LIMIT ${String(LOOK_AHEAD)}`,
      { jobId },
    );
  }

  /** Takes up the pieces whose time has come. */
  private async takeUpDue(): Promise<void> {
    if (this.stopped) return;
    const { store } = this.desk;
    const due = { now: nowText(this.desk) };
    const [any] = await store.select(
      `SELECT 1 FROM job_items WHERE state = 'waiting' AND dueAt <= :now LIMIT 1`,
      due,
    );
    if (!any) return;
    const jobs = await store.write(async (transaction) => {
      const rows = await store.select<{ jobId: string; count: number }>(
        `SELECT jobId, COUNT(*) AS count FROM job_items WHERE state = 'waiting' AND dueAt <= :now GROUP BY jobId`,
        due,
        transaction,
      );
      await store.run(
        `UPDATE job_items SET dueAt = NULL WHERE state = 'waiting' AND dueAt <= :now`,
        due,
        transaction,
      );
      for (const { jobId, count } of rows)
        await store.run(
          'UPDATE jobs SET resting = resting - :count WHERE id = :jobId',
          { jobId, count },
          transaction,
        );
      return JobRow.findAll({
        where: { id: rows.map(({ jobId }) => jobId), state: ['waiting', 'running'] },
        transaction,
      });
    });
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
    await this.turnInto(id, 'stopped');
    this.turns.drop(id);
    for (const { piece } of this.turns.underWay(id)) this.stops.get(piece.id)?.abort();
    this.desk.events.emit('job', id);
    this.desk.events.emit(`done ${id}`);
    return viewProgress(id);
  }

  /** Goes on with a job that was stopped. Throws Problem. */
  async goOn(id: string): Promise<Job> {
    this.giveTurn(await this.turnInto(id, 'waiting'));
    this.desk.events.emit('job', id);
    return viewProgress(id);
  }

  private turnInto(id: string, state: 'stopped' | 'waiting'): Promise<JobRow> {
    return this.desk.store.write(async (transaction) => {
      const row = await JobRow.findByPk(id, { transaction });
      if (!row) throw new Problem('no-such-job', { ref: id });
      if (row.state === 'done') throw new Problem('job-over');
      if ((row.state === 'stopped') === (state === 'stopped')) return row;
      return row.update(
        { state, stoppedAt: state === 'stopped' ? nowText(this.desk) : null },
        { transaction },
      );
    });
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
    this.runItem(piece.id, stop.signal)
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
    const isOurs = await this.written(`beginning ${job.kind} ${item.subject}`, async (transaction) => {
      const [taken] = await JobItemRow.update(
        { state: 'running', begun: isGivenUp ? begun : begun + 1 },
        { where: { id, state: 'waiting' }, transaction },
      );
      await JobRow.update({ state: 'running' }, { where: { id: job.id, state: 'waiting' }, transaction });
      return taken === 1;
    });
    // It was read as waiting while it was taken already.
    if (!isOurs) return;
    const ended = isGivenUp
      ? GIVEN_UP
      : await outcomeOf(this.desk, this.work.get(job.kind), job, item, signal, this.report);
    const isOver = await this.written(`ending ${job.kind} ${item.subject}`, (transaction) =>
      writeEnd(job.id, id, ended, nowText(this.desk), transaction),
    );
    this.desk.events.emit('job', job.id);
    if (isOver || ended.dueAt !== undefined) this.desk.events.emit(`done ${job.id}`);
  }

  /**
   * Writes something that has to be written, by statements that are the same each time, again and again while the records cannot
   * take it (a full disk, a lock held for long), until it is or the service stops; then it is done again at the next start.
   */
  private written<T>(what: string, work: (transaction: Transaction) => Promise<T>): Promise<T> {
    return pRetry(() => this.desk.store.write(work).catch(toBeTriedAgain), {
      retries: Infinity,
      minTimeout: FIRST_PAUSE_MS,
      maxTimeout: LONGEST_PAUSE_MS,
      unref: true,
      shouldRetry: () => !this.stopped,
      onFailedAttempt: ({ error }) => {
        if (!this.stopped) this.report(error, `${what}: could not be written, and is tried again`);
      },
    });
  }
}

/** p-retry takes a TypeError for a fault of the program that no trying mends; what has to be written is tried again whatever it was. */
function toBeTriedAgain(error: unknown): never {
  throw error instanceof Error && !(error instanceof TypeError)
    ? error
    : new Error('it could not be written', { cause: error });
}
