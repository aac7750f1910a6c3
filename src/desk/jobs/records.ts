import type { Transaction } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { markNow } from '../../store/request-mark.js';
import { JobItemRow, JobRow, type Lane } from '../../store/models/jobs.js';
import type { Store } from '../../store/store.js';
import { MOST_BEGUN, type Ended } from './endings.js';
import type { Waiting } from './queue.js';
import type { NewPiece } from './work.js';

/** What is on record of jobs and their pieces, and every change of it. Times are texts, as they stand in the records. */

export interface NewJob {
  readonly id: string;
  readonly kind: string;
  readonly lane: Lane;
  readonly personId: string | null;
  readonly at: string;
  readonly pieces: readonly NewPiece[];
}

/** A piece that may have ended a process before. */
export type Suspect = Waiting & { readonly jobId: string };

/** Writes down a job with its pieces; one of none is done at once. */
export async function writeJob(
  store: Store,
  { id, kind, lane, personId, at, pieces }: NewJob,
  transaction: Transaction,
): Promise<void> {
  const empty = pieces.length === 0;
  await JobRow.create(
    {
      id,
      kind,
      state: empty ? 'done' : 'waiting',
      personId,
      createdAt: at,
      finishedAt: empty ? at : null,
      lane,
      total: pieces.length,
      resting: pieces.filter(({ dueAt }) => dueAt !== undefined).length,
    },
    { transaction },
  );
  await store.insert(
    'job_items',
    pieces.map((piece, seq) => itemValues(id, piece, seq)),
    transaction,
  );
  const mark = markNow();
  if (mark) mark.jobId = id;
}

/** A piece of a job as it is written down. */
function itemValues(
  jobId: string,
  { subject, input, dueAt, host, engine }: NewPiece,
  seq: number,
): Readonly<Record<string, string | number | null>> {
  return {
    id: newId(),
    jobId,
    seq,
    subject,
    input: JSON.stringify(input),
    state: 'waiting',
    begun: 0,
    dueAt: dueAt?.toISOString() ?? null,
    host: host ?? null,
    engine: engine ?? null,
  };
}

/**
 * Takes back what an earlier process had under way. @returns the jobs that are not over, oldest first, and the pieces that may
 * have ended that process: several were under way when it died, so the first time each is only tried again, the second time by itself
 */
export async function takeBack(store: Store): Promise<{ jobs: JobRow[]; suspects: Suspect[] }> {
  await store.write((transaction) =>
    JobItemRow.update({ state: 'waiting' }, { where: { state: 'running' }, transaction }),
  );
  const jobs = await JobRow.findAll({ where: { state: ['waiting', 'running'] }, order: ['createdAt', 'id'] });
  const suspects = await store.select<Suspect>(
    `SELECT id, jobId, host, engine FROM job_items WHERE state = 'waiting' AND begun >= ${String(MOST_BEGUN - 1)}
       AND dueAt IS NULL AND jobId IN (SELECT id FROM jobs WHERE state IN ('waiting', 'running')) ORDER BY jobId, seq`,
  );
  return { jobs, suspects };
}

/** The first pieces of a job that wait and may be begun beside others. */
export function waitingOf(store: Store, jobId: string, most: number): Promise<Waiting[]> {
  return store.select<Waiting>(
    `SELECT id, host, engine FROM job_items WHERE jobId = $jobId AND state = 'waiting' AND dueAt IS NULL
       AND begun < ${String(MOST_BEGUN - 1)} ORDER BY seq LIMIT $most`,
    { jobId, most },
  );
}

/** Frees the pieces whose time has come. @returns their jobs, those that were not stopped */
export async function freeDue(store: Store, now: string): Promise<JobRow[]> {
  const [any] = await store.select(
    `SELECT 1 FROM job_items WHERE state = 'waiting' AND dueAt <= $now LIMIT 1`,
    { now },
  );
  if (!any) return [];
  return store.write(async (transaction) => {
    const rows = await store.select<{ jobId: string; count: number }>(
      `SELECT jobId, COUNT(*) AS count FROM job_items WHERE state = 'waiting' AND dueAt <= $now GROUP BY jobId`,
      { now },
      transaction,
    );
    await store.run(
      `UPDATE job_items SET dueAt = NULL WHERE state = 'waiting' AND dueAt <= $now`,
      { now },
      transaction,
    );
    for (const { jobId, count } of rows)
      await store.run(
        'UPDATE jobs SET resting = resting - $count WHERE id = $jobId',
        { jobId, count },
        transaction,
      );
    return JobRow.findAll({
      where: { id: rows.map(({ jobId }) => jobId), state: ['waiting', 'running'] },
      transaction,
    });
  });
}

/** Stops a job, or lets it wait for its turn again. Throws Problem for one that is not there, or is over. */
export function turnInto(
  store: Store,
  id: string,
  state: 'stopped' | 'waiting',
  now: string,
): Promise<JobRow> {
  return store.write(async (transaction) => {
    const row = await JobRow.findByPk(id, { transaction });
    if (!row) throw new Problem('no-such-job', { ref: id });
    if (row.state === 'done') throw new Problem('job-over');
    if ((row.state === 'stopped') === (state === 'stopped')) return row;
    return row.update({ state, stoppedAt: state === 'stopped' ? now : null }, { transaction });
  });
}

/** Writes down that a piece is begun, and so its job. @returns whether it was still to be begun */
export async function writeBegin(
  { id, jobId }: Pick<JobItemRow, 'id' | 'jobId'>,
  begun: number,
  transaction: Transaction,
): Promise<boolean> {
  const [taken] = await JobItemRow.update(
    { state: 'running', begun },
    { where: { id, state: 'waiting' }, transaction },
  );
  await JobRow.update({ state: 'running' }, { where: { id: jobId, state: 'waiting' }, transaction });
  return taken === 1;
}

/** Writes down what a piece ended as, and counts it. @returns whether its job is done with it */
export async function writeEnd(
  store: Store,
  jobId: string,
  id: string,
  { state, result, dueAt }: Ended,
  finishedAt: string,
  transaction: Transaction,
): Promise<boolean> {
  const isOver = state !== 'waiting';
  await JobItemRow.update(
    // One that waits for its time, or was stopped, ended well, so that it is no suspect when it is begun again.
    {
      state,
      result,
      dueAt: dueAt ?? null,
      finishedAt: isOver ? finishedAt : null,
      ...(isOver ? {} : { begun: 0 }),
    },
    { where: { id }, transaction },
  );
  const [job] = await store.select<{ isDone: number }>(
    `UPDATE jobs SET finished = finished + $over, resting = resting + $rests,
       state = iif(finished + $over >= total, 'done', state), finishedAt = iif(finished + $over >= total, $finishedAt, finishedAt),
       stoppedAt = iif(finished + $over >= total, NULL, stoppedAt)
     WHERE id = $jobId RETURNING state = 'done' AS isDone`,
    { jobId, over: isOver ? 1 : 0, rests: dueAt === undefined ? 0 : 1, finishedAt },
    transaction,
  );
  return job?.isDone === 1;
}
