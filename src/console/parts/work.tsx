import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Job } from '../../api/documents.js';
import { api, queries, sayError } from '../api.js';

export interface Work {
  readonly run: () => void;
  readonly isRunning: boolean;
  /** What it came to, or how far it is; null before it was begun. */
  readonly says: string | null;
  readonly stops: boolean;
  /** Stops it while it is under way; null where there is nothing to stop. */
  readonly halt: (() => void) | null;
}

/** Starts a job, follows it to its end, and has everything shown read again. */
export function useWork(start: () => Promise<Job>): Work {
  const [progress, setProgress] = useState<Job | null>(null);
  const work = useMutation({
    mutationFn: async () => api.finished(await start(), setProgress),
    onSettled: () => queries.invalidateQueries(),
  });
  if (work.isPending) {
    const counted =
      progress && progress.total > 1 ? ` ${String(progress.finished)} of ${String(progress.total)}` : '';
    const halt =
      progress && progress.total > 1
        ? () => {
            // It is told by its events what came of that.
            api.stopJob({ params: { id: progress.id } }).catch(() => undefined);
          }
        : null;
    return { run: () => undefined, isRunning: true, says: `Working …${counted}`, stops: false, halt };
  }
  const run = () => {
    work.mutate();
  };
  const over = { run, isRunning: false, halt: null };
  if (work.error) return { ...over, says: sayError(work.error), stops: true };
  if (!work.data) return { ...over, says: null, stops: false };
  if (work.data.state === 'stopped')
    return {
      ...over,
      says: `Stopped: ${String(work.data.finished)} of ${String(work.data.total)} are done.`,
      stops: true,
    };
  const telling = work.data.items.filter((item) => item.result?.problem);
  const shown = telling.length > 0 ? telling : work.data.items.slice(0, 1);
  const says =
    work.data.items.length > 1 && telling.length === 0
      ? `Done: ${String(work.data.items.length)}.`
      : shown.map((item) => item.result?.says ?? item.state).join(' ');
  return {
    ...over,
    says: says === '' ? 'Nothing was to be done.' : says,
    stops: telling.length > 0,
  };
}
