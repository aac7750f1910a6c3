import { useMutation, useQuery } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Field } from '../../parts/field.js';
import { Notice } from '../../parts/notice.js';

/** What is left of today's rations, in a line. */
function Rations() {
  const rations = useQuery({ queryKey: ['rations'], queryFn: () => api.listRations() });
  const items = rations.data?.items ?? [];
  if (items.length === 0) return null;
  return (
    <p className="mb-2 text-sm text-faint">
      Left today:{' '}
      {items
        .map(
          ({ engine, account, lookups, visits }) =>
            `${engine.title} (${account}) ${String(lookups.left)} of ${String(lookups.ration)} lookups` +
            (visits.ration === 0 ? '' : `, ${String(visits.left)} of ${String(visits.ration)} visits`),
        )
        .join('; ')}
      .
    </p>
  );
}

/** Asks the engines that hold a badge over a page whether they list it, or for a visit to it. */
export function PageLookups() {
  const asking = useMutation({
    mutationFn: async ({ work, address }: { work: 'lookUp' | 'askVisit'; address: string }) =>
      api.finished(await api[work]({ body: { addresses: [address] } })),
    onSettled: () => queries.invalidateQueries(),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const { submitter } = event.nativeEvent as SubmitEvent;
    const work = submitter?.getAttribute('value') === 'askVisit' ? 'askVisit' : 'lookUp';
    asking.mutate({ work, address: String(new FormData(event.currentTarget).get('page')) });
  };
  return (
    <section aria-label="A single page" className="mt-6 max-w-xl">
      <h2 className="mb-1 text-lg">A single page</h2>
      <Rations />
      <form onSubmit={submit}>
        <Field label="Address of the page" name="page" type="url" required hint="The whole address." />
        <div className="flex flex-wrap gap-3">
          <Button type="submit" value="lookUp" disabled={asking.isPending}>
            Look it up
          </Button>
          <Button type="submit" value="askVisit" disabled={asking.isPending}>
            Ask for a visit
          </Button>
        </div>
      </form>
      <div className="mt-2 min-h-11 space-y-2" role="status">
        {asking.error && <Notice kind="stops">{sayError(asking.error)}</Notice>}
        {asking.data?.items.map(({ id, result }) => (
          <p key={id}>{result?.says}</p>
        ))}
      </div>
    </section>
  );
}
