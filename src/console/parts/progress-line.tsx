import type { Progress } from '../../api/documents.js';
import { progressWords } from '../../api/progress-words.js';

interface ProgressLineProps {
  progress: Progress;
  /** Whether it says what comes next beside it, not only to whom asks. */
  long?: boolean;
}

/** How far a taking on is, as a line with its words; nothing where all is done, which is said by everything else. */
export function ProgressLine({ progress, long = false }: ProgressLineProps) {
  const { done, total, next } = progress;
  if (total === 0 || (done === total && !long)) return null;
  const then = next === null ? '' : `next: ${next}`;
  return (
    <span className="flex flex-wrap items-center gap-x-2 text-[13px] text-faint" title={then}>
      <span aria-hidden="true" className="inline-block h-1.5 w-16 border border-faint">
        <span className="block h-full bg-faint" style={{ width: `${String((100 * done) / total)}%` }} />
      </span>
      <span>
        {progressWords(progress)}
        {long ? then !== '' && `; ${then}` : then !== '' && <span className="sr-only">; {then}</span>}
      </span>
    </span>
  );
}
