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
    return { run: () => undefined, isRunning: true, says: `Working …${counted}`, stops: false };
  }
  const run = () => {
    work.mutate();
  };
  if (work.error) return { run, isRunning: false, says: sayError(work.error), stops: true };
  if (!work.data) return { run, isRunning: false, says: null, stops: false };
  const telling = work.data.items.filter((item) => item.result?.problem);
  const shown = telling.length > 0 ? telling : work.data.items.slice(0, 1);
  const says =
    work.data.items.length > 1 && telling.length === 0
      ? `Done: ${String(work.data.items.length)}.`
      : shown.map((item) => item.result?.says ?? item.state).join(' ');
  return {
    run,
    isRunning: false,
    says: says === '' ? 'Nothing was to be done.' : says,
    stops: telling.length > 0,
  };
}
