import { useMutation, useQuery } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import type { Property, Sitemap, Submission } from '../../../api/documents.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Field } from '../../parts/field.js';
import { FindingView } from '../../parts/finding-view.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { RecordCounts } from './by-hand.js';
import { WorkButton } from '../../parts/work-button.js';
import { SinglePages } from './single-pages.js';

function Compared({ counts }: { counts: Submission['counts'] }) {
  switch (counts.state) {
    case 'equal':
      return <>equal to ours</>;
    case 'apart':
      return <>{counts.gap === null ? 'ours is unread' : `apart by ${String(counts.gap)}`}</>;
    case 'waiting':
      return (
        <>
          waiting, due by <When time={counts.dueBy} />
        </>
      );
    case 'overdue':
      return (
        <>
          overdue since <When time={counts.dueBy} />
        </>
      );
    case 'troubled':
      return <>the engine could not read it</>;
  }
}

function kindWords({ kind, children }: NonNullable<Sitemap['reading']>): string {
  switch (kind) {
    case 'index':
      return `index of ${String(children)}`;
    case 'rss':
      return 'RSS feed';
    case 'atom':
      return 'Atom feed';
    case 'text':
      return 'list of addresses';
    case 'urlset':
    case null:
      return 'sitemap';
  }
}

function SitemapView({ sitemap, mayWork }: { sitemap: Sitemap; mayWork: boolean }) {
  const { reading, submissions } = sitemap;
  return (
    <section aria-label={sitemap.url} className="mb-4 border border-rule bg-sheet p-4">
      <h2 className="font-mono text-base break-all">{sitemap.url}</h2>
      <p className="mt-1 text-sm">
        <strong>{sitemap.state}</strong>
        {reading && (
          <>
            , {reading.kind === null ? '' : `${kindWords(reading)}, `}
            {reading.addresses} addresses{' '}
            <span className="text-faint">
              read <When time={reading.at} />
            </span>
          </>
        )}
      </p>
      <ul className="mt-2 space-y-2 text-sm">
        {reading?.findings.map((one) => (
          <FindingView key={one.code + one.says} one={one} tells={['stops', 'harms', 'note']} />
        ))}
      </ul>
      {submissions.length > 0 && (
        <div className="overflow-x-auto">
          <table className="mt-2 w-full text-sm">
            <thead className="text-faint">
              <tr>
                {['Engine', 'Sent as', 'Ours', 'Found', 'Listed', 'Last read', 'Compared'].map((title) => (
                  <th key={title} scope="col" className="pr-4">
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {submissions.map((one) => (
                <tr key={one.id} className="border-t border-rule">
                  <th scope="row" className="py-1 pr-4">
                    {one.engine.title}
                  </th>
                  <td className="pr-4 font-mono break-all">{one.sentAs}</td>
                  <td className="pr-4 tabular-nums">{reading?.addresses ?? '–'}</td>
                  <td className="pr-4 tabular-nums">{one.engineReading?.found ?? '–'}</td>
                  <td className="pr-4 tabular-nums">{one.engineReading?.listed ?? '–'}</td>
                  <td className="pr-4">
                    <When time={one.engineReading?.readAt ?? null} />
                  </td>
                  <td className="pr-4">
                    <Compared counts={one.counts} />
                    {one.engineReading?.recordedBy != null && (
                      <span className="text-faint"> (recorded by {one.engineReading.recordedBy})</span>
                    )}
                    {mayWork && one.byHand && (
                      <span className="ml-2">
                        <RecordCounts submission={one} />
                      </span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {mayWork && (
        <div className="mt-3 flex flex-wrap gap-3">
          <WorkButton start={() => api.readSitemaps({ body: { sitemap: sitemap.id } })}>Read now</WorkButton>
          <WorkButton start={() => api.submitSitemap({ body: { sitemap: sitemap.id } })}>Submit</WorkButton>
        </div>
      )}
    </section>
  );
}

function AddSitemap({ property }: { property: Property }) {
  const add = useMutation({
    mutationFn: (address: string) => api.addSitemap({ body: { property: property.id, address } }),
    onSuccess: () => queries.invalidateQueries(),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    add.mutate(String(new FormData(event.currentTarget).get('address')));
  };
  return (
    <form onSubmit={submit} className="max-w-xl">
      <Field
        label="Another sitemap"
        name="address"
        required
        hint="A path such as /sitemap.xml, or the whole address."
      />
      <Button type="submit" disabled={add.isPending}>
        Note it
      </Button>
      <div className="mt-2 min-h-11">
        {add.error && <Notice kind="stops">{sayError(add.error)}</Notice>}
        {add.data?.note != null && <Notice kind="note">{add.data.note}</Notice>}
      </div>
    </form>
  );
}

export function SitemapList({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const sitemaps = useQuery({
    queryKey: ['sitemaps', property.id],
    queryFn: () => api.listSitemaps({ query: { property: property.id } }),
  });
  return (
    <QueryView query={sitemaps}>
      {({ items }) => (
        <>
          {items.length === 0 && (
            <Notice kind="note">No sitemap is noted yet. Have them looked for, or note one below.</Notice>
          )}
          {mayWork && (
            <div className="my-3">
              <WorkButton
                start={() => api.findSitemaps({ params: { property: property.id }, body: { note: true } })}
              >
                Look for sitemaps
              </WorkButton>
            </div>
          )}
          {items.map((sitemap) => (
            <SitemapView key={sitemap.id} sitemap={sitemap} mayWork={mayWork} />
          ))}
          {mayWork && <AddSitemap property={property} />}
          {mayWork && <SinglePages />}
        </>
      )}
    </QueryView>
  );
}
