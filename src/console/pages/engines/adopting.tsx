import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Account, Engine, JobResult, Met } from '../../../api/documents.js';
import { api, queries, sayError, Told } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Notice } from '../../parts/notice.js';
import { Sheet } from '../../parts/sheet.js';

const WORDS: Readonly<Record<Met['state'], string>> = {
  known: 'recorded here',
  differs: 'unlike ours',
  new: 'new here',
  'taken-over': 'taken over',
  'no-property': 'no property',
  missing: 'missing there',
};

async function look(account: Account, engine: Engine, take: boolean): Promise<JobResult> {
  const body = { engine: engine.id, account: account.name, take };
  const { items } = await api.finished(await api.adopt({ body }));
  const result = items[0]?.result;
  if (!result?.met) throw new Told(result?.says ?? `${engine.title} did not say what is enrolled there.`);
  return result;
}

function MetList({ met }: { met: readonly Met[] }) {
  return (
    <ul className="mb-3 text-sm">
      {met.map((one) => (
        <li key={one.ref} className="border-t border-rule py-1.5">
          <span className="font-semibold">{WORDS[one.state]}</span>{' '}
          <span className="font-mono text-[13px] break-all">{one.target}</span>{' '}
          <span className="text-faint">by {one.reach}</span>
          <span className="block text-faint">{one.says}</span>
        </li>
      ))}
    </ul>
  );
}

/** What is enrolled at an engine already, beside what is recorded here; what is new here can be taken over. */
export function Adopting({ account, engine }: { account: Account; engine: Engine }) {
  const [open, setOpen] = useState(false);
  const work = useMutation({
    mutationFn: (take: boolean) => look(account, engine, take),
    onSuccess: (_, take) => (take ? queries.invalidateQueries() : undefined),
  });
  const fresh = work.data?.met?.filter(({ state }) => state === 'new').length ?? 0;
  return (
    <Sheet
      opener="Adopt"
      title={`What ${engine.title} has under ${account.name}`}
      says="Looking changes nothing. Taking over records what is new, and overwrites nothing."
      open={open}
      onOpen={(next) => {
        setOpen(next);
        if (next) work.mutate(false);
      }}
    >
      {work.isPending && <p role="status">Asking {engine.title} …</p>}
      {work.error && <Notice kind="stops">{sayError(work.error)}</Notice>}
      {work.data && (
        <>
          <p className="mb-2" role="status">
            {work.data.says}
          </p>
          <MetList met={work.data.met ?? []} />
          {fresh > 0 && (
            <Button
              look="main"
              disabled={work.isPending}
              onClick={() => {
                work.mutate(true);
              }}
            >
              {`Take over ${String(fresh)}`}
            </Button>
          )}
        </>
      )}
    </Sheet>
  );
}
