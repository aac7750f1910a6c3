import { Op, fn, col } from 'sequelize';
import type { Job, JobResult, Page } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { JobItemRow, JobRow } from '../../store/models/jobs.js';

/** One job with its pieces. Throws Problem `no-such-job`. */
export async function viewJob(id: string): Promise<Job> {
  const row = await JobRow.findByPk(id);
  if (!row) throw new Problem('no-such-job', `There is no job “${id}”.`);
  const items = await JobItemRow.findAll({ where: { jobId: id }, order: ['seq'] });
  return {
    ...head(row),
    total: items.length,
    finished: items.filter(({ state }) => state === 'done' || state === 'failed').length,
    items: items.map((item) => ({
      id: item.id,
      subject: item.subject,
      state: item.state,
      result: item.result as JobResult | null,
    })),
  };
}

/** Jobs, newest first, with their counts but without their pieces. */
export async function listJobs(query: { after?: string; limit?: number }): Promise<Page<Job>> {
  const limit = query.limit ?? 100;
  const rows = await JobRow.findAll({
    where: query.after === undefined ? {} : { createdAt: { [Op.lt]: query.after } },
    order: [['createdAt', 'DESC']],
    limit: limit + 1,
  });
  const shown = rows.slice(0, limit);
  const counts = (await JobItemRow.findAll({
    where: { jobId: shown.map(({ id }) => id) },
    attributes: ['jobId', 'state', [fn('COUNT', col('id')), 'count']],
    group: ['jobId', 'state'],
    raw: true,
  })) as unknown as { jobId: string; state: string; count: number }[];
  const items = shown.map((row): Job => {
    const own = counts.filter(({ jobId }) => jobId === row.id);
    const sum = (some: typeof own) => some.reduce((total, { count }) => total + count, 0);
    return {
      ...head(row),
      total: sum(own),
      finished: sum(own.filter(({ state }) => state === 'done' || state === 'failed')),
      items: [],
    };
  });
  return { items, next: rows.length > limit ? (shown.at(-1)?.createdAt ?? null) : null };
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
