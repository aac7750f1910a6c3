import type { Progress } from './documents.js';

/** “5 of 9 done” */
export function progressWords({ done, total }: Pick<Progress, 'done' | 'total'>): string {
  return total > 0 && done === total ? 'all done' : `${String(done)} of ${String(total)} done`;
}
