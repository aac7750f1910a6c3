import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import type { SitemapContents, SitemapUrl, SitemapOutline } from '../../../api/documents.js';
import type { ContentsQuery } from '../../../api/contents/routes.js';
import { ApiProblem, contentsTablePath } from '../../../client/client.js';
import { api, sayError } from '../../api.js';
import { chosen, Find, Pick, useNarrowing, type Narrowing } from '../../parts/narrow.js';
import { Notice } from '../../parts/notice.js';
import { PageTurner, usePages } from '../../parts/pages.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { WorkButton } from '../../parts/work-button.js';
import { FolderTree } from './tree.js';
import { given } from '../../../api/given.js';

const NARROWED = ['match', 'folder', 'finding', 'asked', 'order', 'since', 'until'] as const;
const AT_ONCE = 100;

/** An address without what goes without saying beside the sitemap's own. */
function Address({ address, own }: { address: string; own: string }) {
  const text = address.startsWith(own) ? address.slice(own.length) || '/' : address;
  return /^https?:\/\//u.test(address) ? (
    <a href={address} rel="noreferrer noopener" target="_blank" className="no-underline hover:underline">
      {text}
    </a>
  ) : (
    <>{text}</>
  );
}

const SAYS = { listed: 'listed', unlisted: 'not listed', unsaid: 'not said' };

function Row({ one, own, hasFiles }: { one: SitemapUrl; own: string; hasFiles: boolean }) {
  const file = one.file.startsWith(own) ? one.file.slice(own.length) : one.file;
  return (
    <tr className="border-t border-rule align-baseline max-md:block max-md:py-1.5">
      <th scope="row" className="py-0.5 pr-4 font-mono text-[13px] font-normal wrap-anywhere max-md:block">
        <Address address={one.address} own={own} />
        {one.findings.length > 0 && (
          <span className="block font-sans text-harms">
            {one.findings.map(({ says }) => says).join(', ')}
          </span>
        )}
        {one.asked.map(({ engine, listed, at }) => (
          <span key={engine} className="block font-sans text-faint">
            {engine}: {listed === null ? SAYS.unsaid : listed ? SAYS.listed : SAYS.unlisted},{' '}
            <When time={at} />
          </span>
        ))}
      </th>
      <td className="py-0.5 pr-4 whitespace-nowrap tabular-nums max-md:inline">{one.lastmod ?? '–'}</td>
      {hasFiles && (
        <td className="py-0.5 font-mono text-[13px] whitespace-nowrap text-faint max-md:inline">
          {file}:{one.line}
        </td>
      )}
    </tr>
  );
}

function Table({ page, own }: { page: SitemapContents; own: string }) {
  const hasFiles = page.contents.files > 1;
  if (page.items.length === 0) return <Notice kind="note">No address is like that.</Notice>;
  return (
    <table className="w-full border-b border-rule text-sm">
      <thead className="text-faint max-md:sr-only">
        <tr>
          <th scope="col">Address</th>
          <th scope="col" className="pr-4">
            Changed
          </th>
          {hasFiles && <th scope="col">Stands in</th>}
        </tr>
      </thead>
      <tbody>
        {page.items.map((one) => (
          <Row key={`${one.file} ${String(one.nth)}`} one={one} own={own} hasFiles={hasFiles} />
        ))}
      </tbody>
    </table>
  );
}

function DayField({ narrowing, name, label }: { narrowing: Narrowing; name: string; label: string }) {
  return (
    <label className="flex items-center gap-2 text-sm">
      <span className="text-faint">{label}</span>
      <input
        type="date"
        value={narrowing.get(name) ?? ''}
        onChange={(event) => {
          narrowing.set(name, event.target.value);
        }}
        className="rounded-sm border border-faint bg-sheet px-2 py-1"
      />
    </label>
  );
}

function Filters({ narrowing, outline }: { narrowing: Narrowing; outline: SitemapOutline | undefined }) {
  const findings = outline?.findings ?? [];
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <Find narrowing={narrowing} />
      <DayField narrowing={narrowing} name="since" label="Changed from" />
      <DayField narrowing={narrowing} name="until" label="before" />
      {findings.length > 0 && (
        <Pick
          narrowing={narrowing}
          name="finding"
          label="Found"
          all="anything"
          options={[
            { id: 'any', title: 'anything' },
            ...findings.map(({ code, says, count }) => ({
              id: code,
              title: `${says} (${count.toLocaleString('en')})`,
            })),
          ]}
        />
      )}
      <Pick
        narrowing={narrowing}
        name="asked"
        label="Engines say"
        all="anything"
        options={[
          { id: 'any', title: 'were asked about it' },
          { id: 'listed', title: SAYS.listed },
          { id: 'unlisted', title: SAYS.unlisted },
        ]}
      />
      <Pick
        narrowing={narrowing}
        name="order"
        label="Sort by"
        all="place in the file"
        options={[
          { id: 'address', title: 'address' },
          { id: 'newest', title: 'newest first' },
          { id: 'oldest', title: 'oldest first' },
        ]}
      />
    </div>
  );
}

/** The addresses of one sitemap, an index and its sitemaps as one: a tree of folders beside a table that is read page by page. */
export function ContentsPage() {
  const { id = '' } = useParams();
  const params = { sitemap: id };
  const narrowing = useNarrowing();
  const asked = chosen(narrowing, NARROWED) as ContentsQuery;
  const sitemap = useQuery({ queryKey: ['sitemap', id], queryFn: () => api.showSitemap({ params }) });
  const outline = useQuery({
    queryKey: ['outline', id],
    queryFn: () => api.outlineSitemap({ params }),
    retry: false,
  });
  const pages = usePages(['contents', id, asked], (after) =>
    api.listContents({
      params,
      query: { ...asked, limit: AT_ONCE, ...given({ after }) },
    }),
  );
  const look = () => api.readContents({ params });
  const isNew = outline.error instanceof ApiProblem && outline.error.problem.code === 'contents-not-read';
  return (
    <QueryView query={sitemap}>
      {(one) => (
        <>
          <header className="mb-3">
            <p className="text-sm">
              <Link to={`/properties/${one.property.handle}?tab=sitemaps`}>{one.property.handle}</Link> ·{' '}
              <Link to={`/sitemaps/${id}`}>counts and findings</Link>
            </p>
            <h1 className="text-xl">
              Contents of <span className="font-mono break-all">{one.url}</span>
            </h1>
            <div className="mt-2 flex flex-wrap items-center gap-3 text-sm">
              <WorkButton look={isNew ? 'main' : 'plain'} start={look}>
                {isNew ? 'Fetch its contents' : 'Fetch anew'}
              </WorkButton>
              {outline.data && (
                <>
                  <a href={contentsTablePath(id, asked)} download>
                    As a table (CSV)
                  </a>
                  <Link to={`/sitemaps/${id}/plain`}>Plain page, to print</Link>
                  <span className="text-faint">
                    as it stood <When time={outline.data.contents.at} />
                  </span>
                </>
              )}
            </div>
          </header>
          {isNew ? (
            <Notice kind="note">Its contents were not fetched yet.</Notice>
          ) : (
            <div className="grid gap-x-6 gap-y-4 lg:grid-cols-[18rem_1fr]">
              <aside aria-label="Folders" className="min-w-0">
                <QueryView query={outline}>
                  {(top) => (
                    <FolderTree
                      sitemap={id}
                      top={top}
                      chosen={narrowing.get('folder')}
                      choose={(folder) => {
                        narrowing.set('folder', folder ?? '');
                      }}
                    />
                  )}
                </QueryView>
              </aside>
              <section aria-label="Addresses" className="min-w-0">
                <Filters narrowing={narrowing} outline={outline.data} />
                {pages.query.error ? (
                  <Notice kind="stops">{sayError(pages.query.error)}</Notice>
                ) : (
                  <QueryView query={pages.query}>
                    {(page) => (
                      <>
                        <p role="status" className="mb-1 text-sm text-faint tabular-nums">
                          {page.count.toLocaleString('en')} of {page.contents.entries.toLocaleString('en')}{' '}
                          addresses
                          {page.contents.files > 1 && ` in ${page.contents.files.toLocaleString('en')} files`}
                          {page.contents.cut && '; there are more than are kept'}
                        </p>
                        <Table page={page} own={new URL(one.url).origin} />
                      </>
                    )}
                  </QueryView>
                )}
                <PageTurner pages={pages} />
              </section>
            </div>
          )}
        </>
      )}
    </QueryView>
  );
}
