import type { Job } from '../../api/documents.js';
import type { Desk } from '../context/desk.js';
import type { AnyWork } from './work.js';
import { viewJob, type PiecesQuery } from './view.js';

/** One job with its pieces, and how far those are that run. @param works that there may be. Throws Problem `no-such-job`. */
export async function showJob(
  desk: Desk,
  works: readonly AnyWork[],
  id: string,
  query: PiecesQuery,
): Promise<Job> {
  const job = await viewJob(id, query);
  const progress = works.find(({ kind }) => kind === job.kind)?.progress;
  if (!progress) return job;
  const items = job.items.map(async (item) =>
    item.state === 'running' ? { ...item, progress: await progress(desk, item.id) } : item,
  );
  return { ...job, items: await Promise.all(items) };
}
