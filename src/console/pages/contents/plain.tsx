import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { counted } from '../../../api/plural.js';
import type { SitemapFolder, SitemapOutline } from '../../../api/documents.js';
import { writtenMinute } from '../../../api/formats.js';
import { api } from '../../api.js';
import { Button } from '../../parts/button.js';
import { QueryView } from '../../parts/query-view.js';

/** Addresses of a folder that are shown, and folders that are told one by one. */
const FIRST = 10;
const MOST_FOLDERS = 40;
/** Folders that hold but one folder are passed, this deep. */
const DEEPEST = 4;

const day = (time: string | null) => (time === null ? '' : writtenMinute(time).slice(0, 10));

function FolderPart({ sitemap, folder }: { sitemap: string; folder: SitemapFolder }) {
  const first = useQuery({
    queryKey: ['plain', sitemap, folder.folder],
    queryFn: () =>
      api.listContents({
        params: { sitemap },
        query: { folder: folder.folder, order: 'address', limit: FIRST },
      }),
  });
  const rest = folder.total - (first.data?.items.length ?? 0);
  return (
    <section className="mt-4 break-inside-avoid">
      <h3 className="font-mono text-base break-all">
        {folder.folder}{' '}
        <span className="font-sans text-sm font-normal text-faint">
          {counted(folder.total, 'page', 'pages')}
        </span>
      </h3>
      <ul className="mt-1 text-sm">
        {first.data?.items.map(({ address, lastmod, file, nth }) => (
          <li key={`${file} ${String(nth)}`} className="flex gap-4 border-t border-rule">
            <span className="min-w-0 grow font-mono text-[13px] break-all">
              {address.startsWith(folder.folder)
                ? address.slice(folder.folder.length) || '(the folder itself)'
                : address}
            </span>
            <span className="shrink-0 tabular-nums text-faint">{lastmod?.slice(0, 10) ?? ''}</span>
          </li>
        ))}
      </ul>
      {first.data && rest > 0 && (
        <p className="text-sm text-faint">… and {rest.toLocaleString('en')} more in this part.</p>
      )}
    </section>
  );
}

/** The folders of a website, each with its first pages; where there is but one, those below it. */
function Parts({
  sitemap,
  outline,
  level = 0,
}: {
  sitemap: string;
  outline: SitemapOutline;
  level?: number;
}) {
  const [only, second] = outline.folders;
  const isNested = only?.hasBelow === true && second === undefined && level < DEEPEST;
  const below = useQuery({
    queryKey: ['outline', sitemap, only?.folder],
    queryFn: () =>
      api.outlineSitemap({
        params: { sitemap },
        ...(only === undefined ? {} : { query: { folder: only.folder } }),
      }),
    enabled: isNested,
  });
  if (isNested)
    return (
      <>
        {only.own > 0 && (
          <p className="mt-3 text-sm">
            {counted(only.own, 'page stands', 'pages stand')} right below {only.folder}
          </p>
        )}
        {below.data && <Parts sitemap={sitemap} outline={below.data} level={level + 1} />}
      </>
    );
  return (
    <>
      {outline.folders.slice(0, MOST_FOLDERS).map((folder) => (
        <FolderPart key={folder.folder} sitemap={sitemap} folder={folder} />
      ))}
      {outline.folders.length > MOST_FOLDERS && (
        <p className="mt-3 text-sm">
          … and {(outline.folders.length - MOST_FOLDERS).toLocaleString('en')} more parts.
        </p>
      )}
    </>
  );
}

/** What stands in a sitemap, for people who have never seen one: a page to read and to print. */
export function PlainPage() {
  const { id = '' } = useParams();
  const params = { sitemap: id };
  const sitemap = useQuery({ queryKey: ['sitemap', id], queryFn: () => api.showSitemap({ params }) });
  const outline = useQuery({
    queryKey: ['outline', id],
    queryFn: () => api.outlineSitemap({ params }),
    retry: false,
  });
  return (
    <QueryView query={sitemap}>
      {(one) => (
        <article className="max-w-3xl">
          <p className="mb-2 flex flex-wrap gap-3 text-sm print:hidden">
            <Link to={`/sitemaps/${id}/contents`}>Back to its addresses</Link>
            <Button
              onClick={() => {
                window.print();
              }}
            >
              Print
            </Button>
          </p>
          <h1 className="text-2xl">The pages of {new URL(one.url).hostname} that engines are told of</h1>
          <p className="mt-2">
            A sitemap is a list of a website’s pages that search engines read, so that they know which there
            are and which have changed. Nobody sees it who visits the website. This one is at{' '}
            <span className="font-mono text-sm break-all">{one.url}</span>.
          </p>
          <QueryView query={outline}>
            {(sum) => (
              <>
                <p className="mt-2">
                  It lists <strong>{counted(sum.contents.entries, 'page', 'pages')}</strong>
                  {sum.contents.files > 1 && `, in ${String(sum.contents.files)} files that belong together`},
                  as it stood on {day(sum.contents.at)}.{' '}
                  {sum.dated === 0
                    ? 'It does not say when they changed.'
                    : `Of ${counted(sum.dated, 'page', 'pages')} it says when they changed: between ${day(sum.oldest)} and ${day(sum.newest)}.`}
                </p>
                {sum.findings.length > 0 && (
                  <p className="mt-2">
                    Not right are{' '}
                    {sum.findings
                      .map(({ says, count }) => `${count.toLocaleString('en')} (${says})`)
                      .join(', ')}
                    .
                  </p>
                )}
                <h2 className="mt-5 text-lg">Part by part</h2>
                <Parts sitemap={id} outline={sum} />
              </>
            )}
          </QueryView>
        </article>
      )}
    </QueryView>
  );
}
