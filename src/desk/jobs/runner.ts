import { once } from 'node:events';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Job, JobResult } from '../../api/documents.js';
import { Op } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { JobItemRow, JobRow } from '../../store/models/jobs.js';
import { nowText, type Actor, type Desk } from '../parts.js';
import { viewJob } from './view.js';

/** How one kind of work does one piece. It must be safe to begin again with the same `itemId` after a crash. */
export type Handler = (desk: Desk, piece: Piece) => Promise<JobResult>;

export interface Piece {
  /** The same on every try: what is sent to an engine carries it, so that nothing happens twice there. */
  readonly itemId: string;
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

/**
 * Runs recorded work. Every piece is written down before it is begun and when it is done; what was begun
 * and not finished when the process died is begun again at the next start.
 */
export class JobRunner {
  private running = 0;
  private stopped = false;
  private readonly queue: string[] = [];
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
    const createdAt = nowText(this.desk);
    await this.desk.store.write(async (transaction) => {
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
    });
    this.queue.push(...items.filter(({ dueAt }) => dueAt === null).map((item) => item.id));
    this.pump();
    return id;
  }

  /** Takes up what an earlier process left. */
  async resume(): Promise<number> {
    const left = await this.desk.store.write(async (transaction) => {
      await JobItemRow.update({ state: 'waiting' }, { where: { state: 'running' }, transaction });
      return JobItemRow.findAll({
        where: { state: 'waiting', dueAt: null },
        order: ['jobId', 'seq'],
        attributes: ['id'],
        transaction,
      });
    });
    this.queue.push(...left.map((item) => item.id));
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
    while (!this.stopped && this.running < AT_ONCE) {
      const next = this.queue.shift();
      if (next === undefined) return;
      this.running += 1;
      void this.runItem(next)
        .catch((error: unknown) => {
          this.report(error, `job item ${next}`);
        })
        .finally(() => {
          this.running -= 1;
          if (this.running === 0) for (const wake of this.idle.splice(0)) wake();
          this.pump();
        });
    }
  }

  private async runItem(id: string): Promise<void> {
    const item = await JobItemRow.findByPk(id, { rejectOnEmpty: true });
    const job = await JobRow.findByPk(item.jobId, { rejectOnEmpty: true });
    await this.desk.store.write(async (transaction) => {
      await item.update({ state: 'running', begun: item.begun + 1 }, { transaction });
      if (job.state === 'waiting') await job.update({ state: 'running' }, { transaction });
    });
    const { state, result, dueAt = null } = await this.outcome(job, item);
    const isLast = await this.desk.store.write(async (transaction) => {
      const finishedAt = nowText(this.desk);
      const isOver = state !== 'waiting';
      await item.update({ state, result, dueAt, finishedAt: isOver ? finishedAt : null }, { transaction });
      const open = await JobItemRow.count({
        where: { jobId: job.id, state: ['waiting', 'running'] },
        transaction,
      });
      if (open === 0) await job.update({ state: 'done', finishedAt }, { transaction });
      return open === 0;
    });
    this.desk.events.emit('job', job.id);
    if (isLast || dueAt !== null) this.desk.events.emit(`done ${job.id}`);
  }

  private async outcome(
    job: JobRow,
    item: JobItemRow,
  ): Promise<{ state: 'done' | 'failed' | 'waiting'; result: JobResult; dueAt?: string }> {
    const handler = this.handlers[job.kind];
    try {
      if (!handler) throw new Error(`no handler for jobs of the kind ${job.kind}`);
      return {
        state: 'done',
        result: await handler(this.desk, {
          itemId: item.id,
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
      if (error instanceof Problem) return { state: 'failed', result: failed(error.code, error.detail) };
      this.report(error, `${job.kind} ${item.subject}`);
      return {
        state: 'failed',
        result: failed('internal', 'Something went wrong in the service; its log has more.'),
      };
    }
  }
}

/** The result of a piece that came to nothing. */
export function failed(code: string, detail: string): JobResult {
  return { says: detail, stops: true, problem: { code, detail } };
}
