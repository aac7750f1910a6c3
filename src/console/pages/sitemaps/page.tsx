import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { counted } from '../../../api/plural.js';
import type { SitemapDetail } from '../../../api/documents.js';
import { api } from '../../api.js';
import { QueryView } from '../../parts/query-view.js';
import { TableHead } from '../../parts/table-head.js';
import { When } from '../../parts/when.js';
import { WorkButton } from '../../parts/work-button.js';
import { Counts } from './counts.js';
import { SitemapFindings } from './findings.js';
import { History, ReadingTable } from './history.js';
import { CountPlot } from './plot.js';
import { Submit } from './submitting.js';
import { Withdraw } from './withdrawing.js';
import { Change, kindWords } from './words.js';

function Head({ sitemap, mayWork }: { sitemap: SitemapDetail; mayWork: boolean }) {
  const { reading, property, submissions } = sitemap;
  return (
    <header className="mb-4">
      <p className="text-sm">
        <Link to={`/properties/${property.handle}?tab=sitemaps`}>{property.handle}</Link>
      </p>
      <h1 className="font-mono text-xl break-all">{sitemap.urlForPeople}</h1>
      <p className="mt-1 text-sm">
        <strong>{sitemap.state}</strong>
        {reading && (
          <>
            , {kindWords(reading)}, {counted(reading.addresses, 'address', 'addresses')}{' '}
            <Change now={reading.addresses} before={reading.before} /> <Extensions {...reading.extensions} />
            <span className="text-faint">
              newest date {reading.newestLastmod ?? 'none'}, {reading.tried} of its pages tried, read{' '}
              <When time={reading.at} />
            </span>
          </>
        )}
      </p>
      <p className="mt-2 text-sm">
        <Link to={`/sitemaps/${sitemap.id}/contents`}>Contents, address by address</Link>
      </p>
      {mayWork && (
        <div className="mt-3 flex flex-wrap gap-3">
          <WorkButton start={() => api.readSitemaps({ body: { sitemap: sitemap.id } })}>Read now</WorkButton>
          <Submit sitemap={sitemap} />
          {reading?.findings.some(({ code }) => code === 'sitemap.fell') === true && (
            <WorkButton start={() => api.acceptFall({ params: { sitemap: sitemap.id } })}>
              The lower count is right
            </WorkButton>
          )}
          {submissions.length > 0 && <Withdraw submissions={submissions}>Withdraw</Withdraw>}
        </div>
      )}
    </header>
  );
}

function Extensions(counts: NonNullable<SitemapDetail['reading']>['extensions']) {
  const said = [
    [counts.images, 'images'],
    [counts.videos, 'videos'],
    [counts.news, 'news'],
    [counts.alternates, 'links to other languages'],
  ].filter(([count]) => count !== 0);
  return <>{said.map(([count, what]) => `${String(count)} ${String(what)}, `)}</>;
}

function Children({ sitemap }: { sitemap: SitemapDetail }) {
  const { children, childrenInAll } = sitemap;
  if (children.length === 0) return null;
  // What goes without saying beside the address of the index.
  const own = `${new URL(sitemap.url).origin}/`;
  return (
    <section aria-label="The sitemaps in it" className="mb-5">
      <h2 className="mb-1 text-lg">The sitemaps in it</h2>
      <table className="w-full text-sm">
        <TableHead titles={['Sitemap', 'State', 'Addresses', 'Newest date']} className="max-md:sr-only" />
        <tbody>
          {children.map((one) => (
            <tr key={one.url} className="border-t border-rule align-baseline max-md:block max-md:py-2">
              <th scope="row" className="py-1 pr-4 font-mono font-normal wrap-anywhere max-md:block">
                {one.url.replace(own, '/')}
                {one.says !== null && (
                  <span className="block font-sans text-harms">{one.says.replaceAll(own, '/')}</span>
                )}
              </th>
              <td className="py-1 pr-4 max-md:inline">{one.state}</td>
              <td className="py-1 pr-4 tabular-nums max-md:inline">
                {one.kind === null ? '–' : one.addresses}{' '}
                {one.kind !== null && <Change now={one.addresses} before={one.before} />}
                <span className="text-faint md:hidden">addresses</span>
              </td>
              <td className="py-1 pr-4 whitespace-nowrap tabular-nums max-md:hidden">
                {one.newestLastmod ?? '–'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {childrenInAll > children.length && (
        <p className="text-sm text-faint">… and {childrenInAll - children.length} more.</p>
      )}
    </section>
  );
}

function Findings({ sitemap, mayWork }: { sitemap: SitemapDetail; mayWork: boolean }) {
  const spare = sitemap.submissions.filter(({ tooMany }) => tooMany !== null);
  const isAny = [sitemap.reading, ...sitemap.submissions].some((one) => (one?.findings.length ?? 0) > 0);
  if (!isAny) return null;
  return (
    <section aria-label="What was found" className="mb-5">
      <h2 className="mb-1 text-lg">What was found</h2>
      <SitemapFindings sitemap={sitemap} />
      {mayWork && spare.length > 0 && (
        <p className="mt-2">
          <Withdraw submissions={spare}>{`Withdraw duplicates (${String(spare.length)})`}</Withdraw>
        </p>
      )}
    </section>
  );
}

/** One sitemap: its counts side by side, what was found, what is in it, and how it went over time. */
export function SitemapPage({ mayWork }: { mayWork: boolean }) {
  const { id = '' } = useParams();
  const sitemap = useQuery({
    queryKey: ['sitemap', id],
    queryFn: () => api.showSitemap({ params: { sitemap: id } }),
  });
  return (
    <QueryView query={sitemap}>
      {(one) => (
        <>
          <Head sitemap={one} mayWork={mayWork} />
          <section aria-label="Counts" className="mb-5">
            <h2 className="mb-1 text-lg">Counts at the engines</h2>
            <Counts sitemap={one} mayWork={mayWork} />
          </section>
          <Findings sitemap={one} mayWork={mayWork} />
          <Children sitemap={one} />
          <section aria-label="Over time" className="max-w-3xl">
            <h2 className="mb-1 text-lg">Over time</h2>
            <CountPlot sitemap={one} />
            <ReadingTable sitemap={one} />
            <h2 className="mt-5 mb-1 text-lg">What came and what went</h2>
            <History sitemap={one} />
          </section>
        </>
      )}
    </QueryView>
  );
}
