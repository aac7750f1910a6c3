import type { Job } from '../../api/documents.js';
import { Button } from './button.js';
import { useWork } from './work.js';

interface WorkButtonProps {
  children: string;
  start: () => Promise<Job>;
  look?: 'main' | 'plain';
  /** Onlookers see what could be done, but cannot do it. */
  disabled?: boolean;
}

/** A button that starts a job and says what came of it, in a line that keeps its room. */
export function WorkButton({ children, start, look = 'plain', disabled = false }: WorkButtonProps) {
  const work = useWork(start);
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <Button look={look} disabled={disabled || work.isRunning} onClick={work.run}>
        {children}
      </Button>
      {work.halt && <Button onClick={work.halt}>Stop</Button>}
      <span role="status" className={`text-sm ${work.stops ? 'text-stops' : 'text-faint'}`}>
        {work.says}
      </span>
    </span>
  );
}
