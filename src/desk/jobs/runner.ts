import { once } from 'node:events';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Job, JobResult } from '../../api/documents.js';
import { Op, type Transaction } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { markNow, unmarked } from '../../store/marks.js';
import { JobItemRow, JobRow } from '../../store/models/jobs.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import { nowText, type Actor, type Desk } from '../parts.js';
import { viewJob } from './view.js';
import { beyond, failed, GIVEN_UP, MOST_BEGUN, type Ended } from './endings.js';

/** How one kind of work does one piece. It must be safe to begin again with the same `itemId` after a crash. */
export type Handler = (desk: Desk, piece: Piece) => Promise<JobResult>;

export interface Piece {
  /** The same on every try: what is sent to an engine carries it, so that nothing happens twice there. */
  readonly itemId: string;
  /** Whether it was begun before, by a process that died: what comes first may be done already. */
  readonly again: boolean;
  readonly actor: Actor;
  readonly input: unknown;
}

export interface NewPiece {
  readonly subject: string;
  readonly input: object;
  /** Before this it is not begun. */
  readonly dueAt?: Date;
}

/** Thrown by a handler whose piece cannot be done before some time, but then. */
export class Later extends Error {
  constructor(
    readonly until: Date,
    readonly says: string,
  ) {
    super(says);
  }
}

/** How many pieces are worked on at once, over all jobs. */
const AT_ONCE = 8;
/** Milliseconds of real time between looks for pieces whose time has come. */
const LOOK_MS = 1_000;
/** What cannot be written is tried again after so many milliseconds, twice as many each time, up to the longest. */
const FIRST_PAUSE_MS = 100;
const LONGEST_PAUSE_MS = 10_000;

/**
 * Runs recorded work. Every piece is written down before it is begun and when it is done; what was begun
 * and not finished when the process died is begun again at the next start.
 */
export class JobRunner {
  private running = 0;
  private stopped = false;
  private readonly queue: string[] = [];
  /** Pieces that may have ended a process before: one at a time, so that no other is taken down with them. */
  private readonly suspects: string[] = [];
  private isAlone = false;
  private idle: (() => void)[] = [];
  private looking: NodeJS.Timeout | null = null;
  private look: Promise<void> = Promise.resolve();

  constructor(
    private readonly desk: Desk,
    private readonly handlers: Readonly<Record<string, Handler>>,
    private readonly report: (error: unknown, where: string) => void,
  ) {}

  /** Writes a job down and begins it. @returns its identifier */
  async start(kind: string, actor: Actor, pieces: readonly NewPiece[]): Promise<string> {
    const job = this.prepare(kind, actor, pieces);
    await this.desk.store.write((transaction) => job.write(transaction));
    job.begin();
    return job.id;
  }

  /** A job that is written down with what else belongs to it, and begun once that is committed. */
  prepare(
    kind: string,
    actor: Actor,
    pieces: readonly NewPiece[],
  ): { id: string; write: (transaction: Transaction) => Promise<void>; begin: () => void } {
    const id = newId();
    const items = pieces.map((piece, seq) => ({
      id: newId(),
      jobId: id,
      seq,
      subject: piece.subject,
      input: piece.input,
      state: 'waiting' as const,
      begun: 0,
      dueAt: piece.dueAt?.toISOString() ?? null,
    }));
    return {
      id,
      write: async (transaction) => {
        const createdAt = nowText(this.desk);
        const empty = items.length === 0;
        await JobRow.create(
          {
            id,
            kind,
            state: empty ? 'done' : 'waiting',
            personId: actor.personId,
            createdAt,
            finishedAt: empty ? createdAt : null,
          },
          { transaction },
        );
        await JobItemRow.bulkCreate(items, { transaction });
        const mark = markNow();
        if (mark) mark.jobId = id;
      },
      begin: () => {
        this.queue.push(...items.filter(({ dueAt }) => dueAt === null).map((item) => item.id));
        this.pump();
      },
    };
  }

  /** Takes up what an earlier process left. */
  async resume(): Promise<number> {
    const left = await this.desk.store.write(async (transaction) => {
      await JobItemRow.update({ state: 'waiting' }, { where: { state: 'running' }, transaction });
      return JobItemRow.findAll({
        where: { state: 'waiting', dueAt: null },
        order: ['jobId', 'seq'],
        attributes: ['id', 'begun'],
        transaction,
      });
    });
    // Eight were under way when a process died: the first time each is only tried again, the second time by itself.
    for (const { id, begun } of left) (begun >= MOST_BEGUN - 1 ? this.suspects : this.queue).push(id);
    this.pump();
    this.looking ??= setInterval(() => {
      this.look = this.look.then(() =>
        this.takeUpDue().catch((error: unknown) => {
          this.report(error, 'pieces whose time has come');
        }),
      );
    }, LOOK_MS).unref();
    return left.length;
  }

  /** Takes up the pieces whose time has come. */
  private async takeUpDue(): Promise<void> {
    if (this.stopped) return;
    const where = { state: 'waiting', dueAt: { [Op.lte]: nowText(this.desk) } };
    if ((await JobItemRow.count({ where })) === 0) return;
    const due = await this.desk.store.write(async (transaction) => {
      const rows = await JobItemRow.findAll({
        where,
        order: ['dueAt', 'jobId', 'seq'],
        attributes: ['id'],
        transaction,
      });
      await JobItemRow.update({ dueAt: null }, { where: { id: rows.map(({ id }) => id) }, transaction });
      return rows;
    });
    this.queue.push(...due.map(({ id }) => id));
    this.pump();
  }

  /** Begins nothing more and waits for what is under way. */
  async stop(): Promise<void> {
    this.stopped = true;
    if (this.looking) clearInterval(this.looking);
    await this.look;
    if (this.running > 0) await new Promise<void>((resolve) => this.idle.push(resolve));
  }

  /** Waits until a job is done, but no longer than `ms` of real time. */
  async settled(id: string, ms: number): Promise<Job> {
    const over = new AbortController();
    const done = once(this.desk.events, `done ${id}`, { signal: over.signal });
    const late = sleep(ms, undefined, { signal: over.signal, ref: false });
    const either = Promise.race([done, late]).catch(() => undefined);
    try {
      const job = await viewJob(id);
      if (job.state === 'done' || job.rests !== null || ms <= 0) return job;
      await either;
      return await viewJob(id);
    } finally {
      over.abort();
    }
  }

  private pump(): void {
    // What goes on after a request is no part of it.
    unmarked(() => {
      while (!this.stopped && !this.isAlone && this.running < AT_ONCE) {
        const suspect = this.running === 0 ? this.suspects.shift() : undefined;
        const next = suspect ?? (this.suspects.length > 0 ? undefined : this.queue.shift());
        if (next === undefined) return;
        this.isAlone = suspect !== undefined;
        this.running += 1;
        void this.runItem(next)
          .catch((error: unknown) => {
            this.report(error, `job item ${next}`);
          })
          .finally(() => {
            this.running -= 1;
            this.isAlone = false;
            if (this.running === 0) for (const wake of this.idle.splice(0)) wake();
            this.pump();
          });
      }
    });
  }

  private async runItem(id: string): Promise<void> {
    const item = await JobItemRow.findByPk(id, { rejectOnEmpty: true });
    const job = await JobRow.findByPk(item.jobId, { rejectOnEmpty: true });
    const begun = item.begun;
    const isGivenUp = begun >= MOST_BEGUN;
    if (!isGivenUp)
      await this.written(`beginning ${job.kind} ${item.subject}`, async (transaction) => {
        await JobItemRow.update({ state: 'running', begun: begun + 1 }, { where: { id }, transaction });
        await JobRow.update({ state: 'running' }, { where: { id: job.id, state: 'waiting' }, transaction });
      });
    const { state, result, dueAt = null } = isGivenUp ? GIVEN_UP : await this.outcome(job, item, begun > 0);
    const isLast = await this.written(`ending ${job.kind} ${item.subject}`, async (transaction) => {
      const finishedAt = nowText(this.desk);
      const isOver = state !== 'waiting';
      await JobItemRow.update(
        // One that waits for its time ended well, so that it is no suspect when it is begun again.
        { state, result, dueAt, finishedAt: isOver ? finishedAt : null, ...(isOver ? {} : { begun: 0 }) },
        { where: { id }, transaction },
      );
      const open = await JobItemRow.count({
        where: { jobId: job.id, state: ['waiting', 'running'] },
        transaction,
      });
      if (open === 0)
        await JobRow.update({ state: 'done', finishedAt }, { where: { id: job.id }, transaction });
      return open === 0;
    });
    this.desk.events.emit('job', job.id);
    if (isLast || dueAt !== null) this.desk.events.emit(`done ${job.id}`);
  }

  /**
   * Writes something that has to be written, by statements that are the same each time, again and again while the records cannot take it (a full disk, a lock held for
   * long), until it is or the service stops; then it is done again at the next start.
   */
  private async written<T>(what: string, work: (transaction: Transaction) => Promise<T>): Promise<T> {
    for (let pause = FIRST_PAUSE_MS; ; pause = Math.min(pause * 2, LONGEST_PAUSE_MS)) {
      try {
        return await this.desk.store.write(work);
      } catch (error) {
        if (this.stopped) throw error;
        this.report(error, `${what}: could not be written, and is tried again`);
        await sleep(pause, undefined, { ref: false });
      }
    }
  }

  private async outcome(job: JobRow, item: JobItemRow, again: boolean): Promise<Ended> {
    const handler = this.handlers[job.kind];
    try {
      if (!handler) throw new Error(`no handler for jobs of the kind ${job.kind}`);
      return {
        state: 'done',
        result: await handler(this.desk, {
          itemId: item.id,
          again,
          actor: { personId: job.personId ?? null },
          input: item.input,
        }),
      };
    } catch (error) {
      if (error instanceof Later)
        return {
          state: 'waiting',
          result: { says: error.says, stops: false },
          dueAt: error.until.toISOString(),
        };
      if (error instanceof Overtaxed)
        return { state: 'failed', result: failed('beyond-reading', beyond(error)) };
      if (error instanceof Problem) return { state: 'failed', result: failed(error.code, error.detail) };
      this.report(error, `${job.kind} ${item.subject}`);
      return {
        state: 'failed',
        result: failed('internal', 'Something went wrong in the service; its log has more.'),
      };
    }
  }
}
