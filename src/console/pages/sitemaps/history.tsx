import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReadingDifference, SitemapDetail } from '../../../api/documents.js';
import { api } from '../../api.js';
import { QueryView } from '../../parts/query-view.js';
import { TableHead } from '../../parts/table-head.js';
import { When } from '../../parts/when.js';
import { writtenMinute } from '../../../api/formats.js';

const SHOWN = 50;

function Addresses({
  title,
  urls,
  all,
  sign,
}: {
  title: string;
  urls: readonly string[];
  all: number;
  sign: string;
}) {
  return (
    <section aria-label={title} className="min-w-0">
      <h4 className="text-sm font-semibold">
        {all} {title}
      </h4>
      <ul className="font-mono text-[13px]">
        {urls.map((url) => (
          <li key={url} className="break-all">
            {sign} {url}
          </li>
        ))}
      </ul>
      {urls.length < all && <p className="text-sm text-faint">… and {all - urls.length} more.</p>}
    </section>
  );
}

function Difference({ found }: { found: ReadingDifference }) {
  if (found.added + found.removed === 0) return <p className="text-sm">The same addresses in both.</p>;
  return (
    <div className="mt-2 grid gap-4 md:grid-flow-col">
      {found.added > 0 && <Addresses title="came" urls={found.addedFirst} all={found.added} sign="+" />}
      {found.removed > 0 && <Addresses title="went" urls={found.removedFirst} all={found.removed} sign="−" />}
    </div>
  );
}

/** Our readings, and what came and went between any two of them. */
export function History({ sitemap }: { sitemap: SitemapDetail }) {
  const readable = sitemap.readings.filter(({ kind, kept }) => kind !== null && kept);
  const [chosen, setChosen] = useState<{ from?: string; to?: string }>({});
  const to = chosen.to ?? readable[0]?.id;
  const from = chosen.from ?? earlier(readable, to)?.id;
  const difference = useQuery({
    queryKey: ['difference', sitemap.id, from, to],
    queryFn: () =>
      api.compareReadings({
        params: { sitemap: sitemap.id },
        query: { from: from ?? '', to: to ?? '', limit: SHOWN },
      }),
    enabled: from !== undefined && to !== undefined,
  });
  if (readable.length < 2)
    return <p className="text-sm text-faint">With the second reading it can be seen what came and went.</p>;
  const choice = (label: string, value: string | undefined, name: 'from' | 'to') => (
    <label className="text-sm">
      {label}{' '}
      <select
        value={value}
        onChange={(event) => {
          setChosen({ ...chosen, [name]: event.target.value });
        }}
        className="max-w-full rounded-sm border border-faint bg-paper px-2 py-1 tabular-nums"
      >
        {readable.map(({ id, at, addresses }) => (
          <option key={id} value={id}>
            {`${writtenMinute(at)} · ${String(addresses)}`}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <>
      <div className="flex flex-wrap gap-4">
        {choice('From the reading of', from, 'from')}
        {choice('to that of', to, 'to')}
      </div>
      <QueryView query={difference} rows={2}>
        {(found) => <Difference found={found} />}
      </QueryView>
    </>
  );
}

/** The newest reading before one that holds other addresses; the one just before where all hold the same. */
function earlier(readings: SitemapDetail['readings'], id: string | undefined) {
  const at = readings.findIndex((one) => one.id === id);
  const before = readings.slice(at + 1);
  return before.find(({ fingerprint }) => fingerprint !== readings[at]?.fingerprint) ?? before[0];
}

export function ReadingTable({ sitemap }: { sitemap: SitemapDetail }) {
  return (
    <details className="mt-3">
      <summary className="cursor-pointer text-sm text-accent">
        All readings ({sitemap.readings.length})
      </summary>
      <table className="mt-2 w-full text-sm">
        <TableHead titles={['Read', 'State', 'Addresses', 'Newest date']} />
        <tbody>
          {sitemap.readings.map((one) => (
            <tr key={one.id} className="border-t border-rule">
              <th scope="row" className="py-1 pr-4 font-normal">
                <When time={one.at} />
                {one.times > 1 && (
                  <span className="block text-xs text-faint">
                    {one.times} readings since <When time={one.firstAt} />
                  </span>
                )}
              </th>
              <td className="pr-4">{one.state}</td>
              <td className="pr-4 tabular-nums">{one.kind === null ? '–' : one.addresses}</td>
              <td className="pr-4 tabular-nums">{one.newestLastmod ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
