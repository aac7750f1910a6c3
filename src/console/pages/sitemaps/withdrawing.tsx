import { AlertDialog } from 'radix-ui';
import type { Submission } from '../../../api/documents.js';
import { api } from '../../api.js';
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
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 bg-black/50" />
          <AlertDialog.Content className="fixed top-1/2 left-1/2 max-h-[90vh] w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-auto border-2 border-ink bg-sheet p-5">
            <AlertDialog.Title className="text-xl">Withdraw from the engines?</AlertDialog.Title>
            <AlertDialog.Description className="mt-1 mb-2 text-sm text-faint">
              Pages that were listed stay listed; the engine reads the sitemap no more. It can be submitted
              again.
            </AlertDialog.Description>
            <ul className="mb-4 list-disc pl-5 text-sm">
              {submissions.map((one) => (
                <li key={one.id}>
                  <span className="font-mono break-all">{one.sentAs}</span> from {one.engine.title}
                </li>
              ))}
            </ul>
            <div className="flex flex-wrap gap-3">
              <AlertDialog.Action asChild>
                <Button look="main" onClick={work.run}>
                  Withdraw
                </Button>
              </AlertDialog.Action>
              <AlertDialog.Cancel asChild>
                <Button>Leave them</Button>
              </AlertDialog.Cancel>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
      <span role="status" className={`text-sm ${work.stops ? 'text-stops' : 'text-faint'}`}>
        {work.says}
      </span>
    </span>
  );
}
