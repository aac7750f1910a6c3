import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Job } from '../../api/documents.js';
import { api, queries, sayError } from '../api.js';
import { useReporting } from './settling.js';

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
  const report = useReporting();
  const work = useMutation({
    mutationFn: async () => api.finished(await start(), setProgress),
    onSuccess: (job) => {
      report(outcomeOf(job));
    },
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
  return { ...over, ...(work.data ? outcomeOf(work.data) : { says: null, stops: false }) };
}

/** What a job that is over came to. */
function outcomeOf({ state, finished, total, items }: Job): { says: string; stops: boolean } {
  if (state === 'stopped')
    return { says: `Stopped: ${String(finished)} of ${String(total)} are done.`, stops: true };
  const telling = items.filter((item) => item.result?.problem);
  const shown = telling.length > 0 ? telling : items.slice(0, 1);
  const says =
    items.length > 1 && telling.length === 0
      ? `Done: ${String(items.length)}.`
      : shown.map((item) => item.result?.says ?? item.state).join(' ');
  return { says: says === '' ? 'Nothing was to be done.' : says, stops: telling.length > 0 };
}
