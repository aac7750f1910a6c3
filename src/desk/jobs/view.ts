import type { Job, JobResult, Page } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { Op } from 'sequelize';
import { behind, cursorText } from '../context/cursor.js';
import { JobItemRow, JobRow } from '../../store/models/jobs.js';

/** Kinds of work that nobody ordered. */
export const BY_ITSELF = ['watch', 'watch-read'] as const;
/** Pieces that are shown of a job at once. */
const USUAL_PAGE = 500;

/** Which pieces of a job are wanted: from where an earlier page ended, and how many. */
export interface PiecesQuery {
  readonly after?: string;
  readonly limit?: number;
}

/**
 * One job with its pieces by their order, a page of them; all as they were at one time. Throws Problem `no-such-job`.
 */
export async function viewJob(id: string, { after, limit = USUAL_PAGE }: PiecesQuery = {}): Promise<Job> {
  const read = () =>
    JobItemRow.findAll({
      where: { jobId: id, ...(after === undefined ? {} : { seq: { [Op.gt]: seqIn(after) } }) },
      order: ['seq'],
      limit: limit + 1,
    });
  const before = await read();
  const row = await rowOf(id);
  // A job is done in the same moment as its last piece: where it is, no piece is open any more, whatever was read before.
  const found = row.state === 'done' && before.some(isOpen) ? await read() : before;
  const items = found.slice(0, limit);
  return {
    ...(await head(row)),
    next: found.length > limit ? String(items.at(-1)?.seq) : null,
    items: items.map((item) => ({
      id: item.id,
      subject: item.subject,
      state: item.state,
      result: item.result as JobResult | null,
      dueAt: item.state === 'waiting' ? (item.dueAt ?? null) : null,
      progress: null,
    })),
  };
}

function seqIn(after: string): number {
  if (/^\d{1,9}$/.test(after)) return Number(after);
  throw new Problem('bad-cursor');
}

function isOpen({ state }: JobItemRow): boolean {
  return state === 'waiting' || state === 'running';
}

async function rowOf(id: string): Promise<JobRow> {
  const row = await JobRow.findByPk(id);
  if (!row) throw new Problem('no-such-job', { ref: id });
  return row;
}

/** How far a job is, without its pieces: as cheap for a hundred thousand as for one. Throws Problem `no-such-job`. */
export async function viewProgress(id: string): Promise<Job> {
  return { ...(await head(await rowOf(id))), next: null, items: [] };
}

/** Jobs, newest first, with their counts but without their pieces. */
export async function listJobs(query: { after?: string; limit?: number }): Promise<Page<Job>> {
  const limit = query.limit ?? 100;
  const rows = await JobRow.findAll({
    // What the watch does is told by the watch.
    where: { ...behind('createdAt', query.after), kind: { [Op.notIn]: [...BY_ITSELF] } },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit: limit + 1,
  });
  const shown = rows.slice(0, limit);
  const items = await Promise.all(
    shown.map(async (row) => ({ ...(await head(row)), next: null, items: [] })),
  );
  const last = shown.at(-1);
  return {
    items,
    next: last && rows.length > limit ? cursorText({ at: last.createdAt, id: last.id }) : null,
  };
}

async function head(row: JobRow): Promise<Omit<Job, 'items' | 'next'>> {
  const { id, kind, state, createdAt, finishedAt, total, finished, resting } = row;
  const isResting = state !== 'done' && resting > 0 && resting === total - finished;
  return {
    id,
    kind,
    state,
    createdAt,
    finishedAt: finishedAt ?? null,
    total,
    finished,
    rests: isResting ? await firstDue(id) : null,
  };
}

/** When the first of the pieces of a job is due that wait for their time. */
async function firstDue(jobId: string): Promise<string | null> {
  return JobItemRow.min('dueAt', { where: { jobId, state: 'waiting' } });
}
