import { fn, col } from 'sequelize';
import type { Job, JobResult, Page } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { behind, cursorText } from '../cursor.js';
import { JobItemRow, JobRow } from '../../store/models/jobs.js';

/** One job with its pieces, all as they were at one time. Throws Problem `no-such-job`. */
export async function viewJob(id: string): Promise<Job> {
  const read = () => JobItemRow.findAll({ where: { jobId: id }, order: ['seq'] });
  const before = await read();
  const row = await rowOf(id);
  // A job is done in the same moment as its last piece: where it is, no piece is open any more, whatever was read before.
  const items = row.state === 'done' && before.some(isOpen) ? await read() : before;
  const open = items.filter(isOpen);
  const resting = open.flatMap(({ state, dueAt }) => (state === 'waiting' && dueAt ? [dueAt] : []));
  return {
    ...head(row),
    total: items.length,
    finished: items.length - open.length,
    rests: resting.length === open.length ? (resting.sort()[0] ?? null) : null,
    items: items.map((item) => ({
      id: item.id,
      subject: item.subject,
      state: item.state,
      result: item.result as JobResult | null,
      dueAt: item.state === 'waiting' ? (item.dueAt ?? null) : null,
    })),
  };
}

function isOpen({ state }: JobItemRow): boolean {
  return state === 'waiting' || state === 'running';
}

async function rowOf(id: string): Promise<JobRow> {
  const row = await JobRow.findByPk(id);
  if (!row) throw new Problem('no-such-job', `There is no job “${id}”.`);
  return row;
}

/** How far a job is, without its pieces: as cheap for a thousand as for one. Throws Problem `no-such-job`. */
export async function viewProgress(id: string): Promise<Job> {
  const counts = await countsFor([id]);
  // Read last: where the counts say that nothing is left, this says that it is done.
  return withCounts(await rowOf(id), counts);
}

interface Count {
  readonly jobId: string;
  readonly state: string;
  readonly count: number;
  /** How many of them wait for a time, and the first such time. */
  readonly resting: number;
  readonly firstDue: string | null;
}

/** How many pieces of each job are in each state. */
async function countsFor(ids: readonly string[]): Promise<Count[]> {
  return (await JobItemRow.findAll({
    where: { jobId: ids },
    attributes: [
      'jobId',
      'state',
      [fn('COUNT', col('id')), 'count'],
      [fn('COUNT', col('dueAt')), 'resting'],
      [fn('MIN', col('dueAt')), 'firstDue'],
    ],
    group: ['jobId', 'state'],
    raw: true,
  })) as unknown as Count[];
}

function withCounts(row: JobRow, counts: readonly Count[]): Job {
  const own = counts.filter(({ jobId }) => jobId === row.id);
  const sum = (some: readonly Count[]) => some.reduce((total, { count }) => total + count, 0);
  const total = sum(own);
  // What was counted before the job was done may still call its last pieces open.
  if (row.state === 'done') return { ...head(row), total, finished: total, rests: null, items: [] };
  const finished = sum(own.filter(({ state }) => state === 'done' || state === 'failed'));
  const waiting = own.find(({ state }) => state === 'waiting');
  const isResting = waiting !== undefined && total - finished === waiting.resting;
  return { ...head(row), total, finished, rests: isResting ? waiting.firstDue : null, items: [] };
}

/** Jobs, newest first, with their counts but without their pieces. */
export async function listJobs(query: { after?: string; limit?: number }): Promise<Page<Job>> {
  const limit = query.limit ?? 100;
  const rows = await JobRow.findAll({
    where: behind('createdAt', query.after),
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit: limit + 1,
  });
  const shown = rows.slice(0, limit);
  const counts = await countsFor(shown.map(({ id }) => id));
  const items = shown.map((row) => withCounts(row, counts));
  const last = shown.at(-1);
  return {
    items,
    next: last && rows.length > limit ? cursorText({ at: last.createdAt, id: last.id }) : null,
  };
}

function head(row: JobRow): Pick<Job, 'id' | 'kind' | 'state' | 'createdAt' | 'finishedAt'> {
  return {
    id: row.id,
    kind: row.kind,
    state: row.state,
    createdAt: row.createdAt,
    finishedAt: row.finishedAt ?? null,
  };
}
