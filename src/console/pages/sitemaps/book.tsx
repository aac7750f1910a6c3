import { Link } from 'react-router';
import type { Sitemap } from '../../../api/documents.js';
import type { InputOf } from '../../../api/routes.js';
import { api } from '../../api.js';
import { chosen, Find, Pick, useNarrowing } from '../../parts/narrow.js';
import { Notice } from '../../parts/notice.js';
import { PageTurner, usePages } from '../../parts/pages.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { WorkButton } from '../../parts/work-button.js';
import { ByName, Change, Compared, kindWords } from './words.js';
import { given } from '../../../api/given.js';

const STATE = { unread: 'text-faint', clean: 'text-good', flawed: 'text-harms', unreachable: 'text-stops' };

function Row({ sitemap }: { sitemap: Sitemap }) {
  const { reading, submissions, property } = sitemap;
  return (
    <tr className="border-t border-rule align-top max-md:block max-md:py-3">
      <th scope="row" className="py-2 pr-4 font-normal max-md:block md:min-w-60">
        <Link to={`/properties/${property.handle}?tab=sitemaps`} className="text-sm no-underline">
          {property.handle}
        </Link>
        <Link to={`/sitemaps/${sitemap.id}`} className="block font-mono text-sm break-all">
          {new URL(sitemap.url).pathname}
        </Link>
      </th>
      <td className="py-2 pr-4 max-md:block">
        <strong className={STATE[sitemap.state]}>{sitemap.state}</strong>
        {reading && <span className="text-sm text-faint">, {kindWords(reading)}</span>}
        {reading?.findings[0] && sitemap.state !== 'clean' && (
          <span className="block text-[13px] wrap-anywhere text-faint">{reading.findings[0].says}</span>
        )}
      </td>
      <td className="py-2 pr-4 tabular-nums md:text-right">
        <span className="text-sm text-faint md:hidden">Ours </span>
        {reading && reading.kind !== null ? reading.addresses : '–'}{' '}
        {reading && reading.kind !== null && <Change now={reading.addresses} before={reading.before} />}
        <span className="block text-[13px] text-faint">
          <When time={reading?.at ?? null} />
        </span>
      </td>
      <td className="py-2 max-md:block">
        {submissions.length === 0 && <span className="text-sm text-faint">not submitted</span>}
        <ul>
          {submissions.map((one) => (
            <li key={one.id} className="grid gap-x-3 text-sm sm:grid-cols-[8rem_9rem_1fr]">
              <span className="font-semibold">
                {one.engine.title}
                <ByName submission={one} />
              </span>
              <span className="tabular-nums">
                {one.engineReading?.found == null
                  ? 'nothing so far'
                  : `${String(one.engineReading.found)} found, ${String(one.engineReading.listed ?? '–')} listed`}
              </span>
              <span>
                <Compared submission={one} />
                {one.tooMany && <span className="text-harms"> · duplicate</span>}
              </span>
            </li>
          ))}
        </ul>
      </td>
    </tr>
  );
}

type Query = NonNullable<InputOf<'listSitemaps'>['query']>;
const ORDERS: readonly { readonly id: NonNullable<Query['order']>; readonly title: string }[] = [
  { id: 'gap', title: 'largest gap' },
  { id: 'age', title: 'longest unread' },
  { id: 'fall', title: 'largest fall' },
  { id: 'property', title: 'property' },
];
const AT_ONCE = 50;

/** Every sitemap of every property, the ones that are farthest apart first, a page at a time. */
export function SitemapBook({ mayWork }: { mayWork: boolean }) {
  const narrowing = useNarrowing();
  const narrow = { order: 'gap', ...chosen(narrowing, ['order', 'work', 'match']) } as Query;
  const pages = usePages(['sitemaps', narrow], (after) =>
    api.listSitemaps({ query: { ...narrow, limit: AT_ONCE, ...given({ after }) } }),
  );
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="mr-auto text-2xl">Sitemaps</h1>
        <Pick
          narrowing={narrowing}
          name="order"
          label="Sort by"
          all="largest gap"
          options={ORDERS.filter(({ id }) => id !== 'gap')}
        />
        <label className="flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            checked={narrowing.get('work') === 'yes'}
            onChange={(event) => {
              narrowing.set('work', event.target.checked ? 'yes' : '');
            }}
          />
          Only what needs work
        </label>
        <Find narrowing={narrowing} />
        {mayWork && (
          <WorkButton start={() => api.readSitemaps({ body: { all: true } })}>Read all now</WorkButton>
        )}
      </div>
      <QueryView query={pages.query}>
        {({ items }) => {
          if (items.length === 0)
            return (
              <Notice kind="note">
                {narrow.work === undefined && narrow.match === undefined
                  ? 'No sitemap is noted yet. Open a property and have its sitemaps looked for.'
                  : 'Nothing matches: every count is as it should be, or has time left.'}
              </Notice>
            );
          return (
            <table className="w-full border-b border-rule">
              <thead className="text-sm text-faint max-md:sr-only">
                <tr>
                  <th scope="col">Sitemap</th>
                  <th scope="col">Our reading</th>
                  <th scope="col" className="pr-4 text-right">
                    Ours
                  </th>
                  <th scope="col">At the engines</th>
                </tr>
              </thead>
              <tbody>
                {items.map((one) => (
                  <Row key={one.id} sitemap={one} />
                ))}
              </tbody>
            </table>
          );
        }}
      </QueryView>
      <PageTurner pages={pages} />
    </>
  );
}
