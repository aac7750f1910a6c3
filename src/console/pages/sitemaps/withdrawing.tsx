import { AlertDialog } from 'radix-ui';
import type { Submission } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Asking } from '../../parts/asking.js';
import { Button } from '../../parts/button.js';
import { useWork } from '../../parts/work.js';

/** Withdraws submissions, after asking: what an engine no longer knows, it has to read anew. */
export function Withdraw({
  submissions,
  children,
}: {
  submissions: readonly Submission[];
  children: string;
}) {
  const work = useWork(() =>
    api.withdrawSitemaps({ body: { submissions: submissions.map(({ id }) => id) } }),
  );
  return (
    <span className="inline-flex flex-wrap items-center gap-2">
      <AlertDialog.Root>
        <AlertDialog.Trigger asChild>
          <Button disabled={work.isRunning}>{children}</Button>
        </AlertDialog.Trigger>
        <Asking
          title="Withdraw from the engines?"
          says="Listed pages stay listed; the engine no longer reads the sitemap. You can submit it again."
          act="Withdraw"
          leave="Leave them"
          onAct={work.run}
        >
          <ul className="mb-4 list-disc pl-5 text-sm">
            {submissions.map((one) => (
              <li key={one.id}>
                <span className="font-mono break-all">{one.sentAsForPeople}</span> from {one.engine.title}
              </li>
            ))}
          </ul>
        </Asking>
      </AlertDialog.Root>
      <span role="status" className={`text-sm ${work.stops ? 'text-stops' : 'text-faint'}`}>
        {work.says}
      </span>
    </span>
  );
}
