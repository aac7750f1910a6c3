import { useMutation, useQuery } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import { Link } from 'react-router';
import { counted } from '../../../api/plural.js';
import type { Property, Sitemap } from '../../../api/documents.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Field } from '../../parts/field.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { WorkButton } from '../../parts/work-button.js';
import { Counts } from '../sitemaps/counts.js';
import { SitemapFindings } from '../sitemaps/findings.js';
import { Submit } from '../sitemaps/submitting.js';
import { Withdraw } from '../sitemaps/withdrawing.js';
import { Change, kindWords } from '../sitemaps/words.js';
import { PageLookups } from './page-lookups.js';

function SitemapView({ sitemap, mayWork }: { sitemap: Sitemap; mayWork: boolean }) {
  const { reading } = sitemap;
  return (
    <section aria-label={sitemap.urlForPeople} className="mb-4 border border-rule bg-sheet p-4">
      <h2 className="font-mono text-base break-all">
        <Link to={`/sitemaps/${sitemap.id}`}>{sitemap.urlForPeople}</Link>
      </h2>
      <p className="mt-1 mb-3 text-sm">
        <strong>{sitemap.state}</strong>
        {reading && (
          <>
            , {kindWords(reading)}, {counted(reading.addresses, 'address', 'addresses')}{' '}
            <Change now={reading.addresses} before={reading.before} />{' '}
            <span className="text-faint">
              read <When time={reading.at} />
            </span>
          </>
        )}
      </p>
      <Counts sitemap={sitemap} mayWork={mayWork} />
      <div className="mt-3">
        <SitemapFindings sitemap={sitemap} />
      </div>
      {mayWork && (
        <div className="mt-3 flex flex-wrap gap-3">
          <WorkButton start={() => api.readSitemaps({ body: { sitemap: sitemap.id } })}>Read now</WorkButton>
          <Submit sitemap={sitemap} />
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
        hint="A path, for example /sitemap.xml, or the whole address."
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

function spare(sitemaps: readonly Sitemap[]) {
  return sitemaps.flatMap(({ submissions }) => submissions.filter(({ tooMany }) => tooMany !== null));
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
            <div className="my-3 flex flex-wrap gap-3">
              <WorkButton
                start={() => api.findSitemaps({ params: { property: property.id }, body: { note: true } })}
              >
                Look for sitemaps
              </WorkButton>
              {spare(items).length > 0 && (
                <Withdraw submissions={spare(items)}>
                  {`Withdraw duplicates (${String(spare(items).length)})`}
                </Withdraw>
              )}
            </div>
          )}
          {items.map((sitemap) => (
            <SitemapView key={sitemap.id} sitemap={sitemap} mayWork={mayWork} />
          ))}
          {mayWork && <AddSitemap property={property} />}
          {mayWork && <PageLookups />}
        </>
      )}
    </QueryView>
  );
}
