import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Person, Yard, YardRow } from '../../api/documents.js';
import type { InputOf } from '../../api/routes.js';
import { api } from '../api.js';
import { chosen, Find, Pick, useNarrowing } from '../parts/narrow.js';
import { Legend } from '../parts/legend.js';
import { Notice } from '../parts/notice.js';
import { PageTurner, usePages } from '../parts/pages.js';
import { ProgressLine } from '../parts/progress-line.js';
import { QueryView } from '../parts/query-view.js';
import { TagMark } from '../parts/tag-mark.js';
import { WhoseToken } from '../parts/whose-token.js';
import { When } from '../parts/when.js';
import { AddClient, TakeOnProperty } from './taking-on.js';
import { given } from '../../api/given.js';

type Column = Yard['engines'][number];

/** Where a property stands at one engine; each mark opens its enrolment. One that shows another's results stands where that other does. */
function Cell({ row, engine }: { row: YardRow; engine: Column }) {
  const at = engine.from?.id ?? engine.id;
  const enrolments = row.enrolments.filter((one) => one.engine.id === at);
  if (enrolments.length === 0) return <span className="text-sm text-faint">{withoutOne(row, at)}</span>;
  return (
    <ul className="space-y-1">
      {enrolments.map((one) => (
        <li key={one.id}>
          <Link
            to={`/properties/${row.property.handle}#${one.id}`}
            className="inline-flex flex-wrap items-center gap-x-2 no-underline"
          >
            <span className="sr-only">
              {`${row.property.handle} at ${engine.title}${engine.from ? ` by way of ${engine.from.title}` : ''}: `}
            </span>
            <TagMark badge={one.badge} />
            {one.reach === 'name' && <span className="text-sm text-faint"> by name</span>}
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** Whether the held badges miss a variant that visitors use: a mark with its words, and the way to the picture. */
function Variants({ row }: { row: YardRow }) {
  const { missed } = row.variants;
  if (missed.length === 0) return null;
  const engines = [...new Set(missed.map(({ engine }) => engine.title))];
  return (
    <Link
      to={`/properties/${row.property.handle}?tab=variants`}
      title={missed.map(({ engine, address }) => `${engine.title} misses ${address}`).join('\n')}
      className="mt-0.5 inline-flex items-center gap-1.5 text-[13px] text-harms no-underline"
    >
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true" className="shrink-0">
        <path d="M2 15V3l6-2 6 2v12" fill="none" stroke="currentColor" strokeWidth="1.5" />
        <path d="M8 4v5M8 11v1.6" stroke="currentColor" strokeWidth="1.8" />
      </svg>
      <span>
        {engines.length === 1 ? `${engines[0] ?? ''}’s badge misses` : `badges at ${engines.join(', ')} miss`}{' '}
        a variant
      </span>
    </Link>
  );
}

/** Why there is no enrolment at an engine, in the fewest words. */
function withoutOne({ above, fits }: YardRow, engine: string): string {
  const over = above.find((one) => one.engine.id === engine);
  if (over) return `covered by ${over.enrolment.slice(0, over.enrolment.lastIndexOf('@'))}`;
  return fits.includes(engine) ? 'not enrolled' : 'no need';
}

function Row({ row, engines }: { row: YardRow; engines: Yard['engines'] }) {
  const { property, step } = row;
  return (
    <tr className="border-t border-rule align-top max-md:block max-md:py-3">
      <th scope="row" className="py-2 pr-4 font-normal max-md:block">
        <Link to={`/properties/${property.handle}`} className="font-semibold">
          {property.handle}
        </Link>
        <span className="block text-sm text-faint">{property.client.name}</span>
        <span className="block text-[13px] wrap-anywhere text-faint">{property.addressForPeople}</span>
        <ProgressLine progress={row.progress} />
        <Variants row={row} />
      </th>
      {engines.map((engine) => (
        <td key={engine.id} className="py-2 pr-3 max-md:grid max-md:grid-cols-[6rem_1fr] max-md:py-1">
          <span className="text-sm text-faint md:hidden">{engine.title}</span>
          <Cell row={row} engine={engine} />
        </td>
      ))}
      <td className="py-2 pr-4 text-sm max-md:grid max-md:grid-cols-[6rem_1fr] max-md:py-1">
        <span className="text-faint md:hidden">Sitemaps</span>
        {row.sitemaps.total === 0 ? (
          <span className="text-faint">none</span>
        ) : (
          <Link to={`/properties/${property.handle}?tab=sitemaps`} className="no-underline">
            {row.sitemaps.total}, {row.sitemaps.state}
          </Link>
        )}
      </td>
      <td className="py-2 text-sm max-md:block">
        {step ? (
          <>
            <span className="font-semibold">{step.engine}: </span>
            {step.says}
            {step.until !== null && (
              <span className="text-faint">
                {' '}
                Until <When time={step.until} />.
              </span>
            )}
          </>
        ) : (
          <span className="text-faint">Nothing to do.</span>
        )}
      </td>
    </tr>
  );
}

function YardTable({ engines, rows }: { engines: Yard['engines']; rows: readonly YardRow[] }) {
  return (
    <table className="w-full border-b border-rule bg-sheet max-md:block [&_th:first-child]:pl-3 [&_td:last-child]:pr-3 max-md:[&_td]:pl-3">
      <caption className="sr-only">Where every property stands at every engine</caption>
      <thead className="text-sm text-faint max-md:sr-only">
        <tr>
          <th scope="col" className="w-[19%] py-2 pr-3 align-bottom">
            Property
          </th>
          {engines.map(({ id, title, from }) => (
            <th scope="col" key={id} className="py-2 pr-3 align-bottom">
              {title}
              {from && <span className="block text-[12px] font-normal">shows {from.title}’s</span>}
            </th>
          ))}
          <th scope="col" className="py-2 pr-3 align-bottom">
            Sitemaps
          </th>
          <th scope="col" className="w-[25%] py-2 align-bottom">
            Next step
          </th>
        </tr>
      </thead>
      <tbody className="max-md:block">
        {rows.map((row) => (
          <Row key={row.property.id} row={row} engines={engines} />
        ))}
      </tbody>
    </table>
  );
}

/** Clients that have no website yet, so that they stand in no row. */
function WithoutSite({ match, mayWork }: { match: string; mayWork: boolean }) {
  const { data } = useQuery({
    queryKey: ['clients', 'without property'],
    queryFn: () => api.listClients({ query: { without: 'property', limit: MOST_WITHOUT } }),
  });
  const wanted = match.trim().toLowerCase();
  const items = (data?.items ?? []).filter(({ name, handle }) =>
    `${name} ${handle}`.toLowerCase().includes(wanted),
  );
  if (items.length === 0) return null;
  return (
    <p className="mt-3 text-sm">
      <span className="text-faint">Without a website yet: </span>
      {items.map(({ name }) => name).join(', ')}
      {data?.next != null && ' and more'}
      {mayWork && <span className="text-faint">. “Take on property” gives them one.</span>}
    </p>
  );
}

const MOST_WITHOUT = 100;
const AT_ONCE = 50;
type Query = NonNullable<InputOf<'yard'>['query']>;

/** The first page: properties down, engines across, and what to do next. */
export function YardPage({ person }: { person: Person }) {
  const narrowing = useNarrowing();
  const narrow = chosen(narrowing, ['badge', 'match']) as Query;
  const pages = usePages(['yard', narrow], (after) =>
    api.yard({ query: { ...narrow, limit: AT_ONCE, ...given({ after }) } }),
  );
  const others = chosen(narrowing, ['match']) as Query;
  const badges = usePages(['yard badges', others], () => api.yard({ query: { ...others, limit: 1 } }));
  const { all = 0, ...counts } = badges.query.data?.counts ?? {};
  const mayWork = person.role !== 'onlooker';
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="mr-auto text-2xl">The yard</h1>
        <Pick
          narrowing={narrowing}
          name="badge"
          label="With a badge"
          all={`of any kind, ${String(all)}`}
          options={Object.entries(counts).map(([id, count]) => ({ id, title: `${id}, ${String(count)}` }))}
        />
        <Find
          narrowing={narrowing}
          hint="name, address or token"
          whose={(text) => <WhoseToken text={text} />}
        />
        {mayWork && <AddClient />}
        {mayWork && <TakeOnProperty />}
      </div>
      <QueryView query={pages.query}>
        {({ items, engines }) =>
          items.length > 0 ? (
            <YardTable engines={engines} rows={items} />
          ) : (
            <Notice kind="note">
              {Object.keys(narrow).length === 0
                ? 'The yard is empty. Add a client, then take on a property by pasting its address.'
                : 'Nothing matches.'}
            </Notice>
          )
        }
      </QueryView>
      <PageTurner pages={pages} />
      <WithoutSite match={narrowing.get('match') ?? ''} mayWork={mayWork} />
      <Legend />
      <p className="mt-4 text-sm">
        <Link to="/archive">What was archived</Link>
      </p>
    </>
  );
}
