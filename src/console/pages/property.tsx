import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, type ReactNode } from 'react';
import { Tabs } from 'radix-ui';
import { useParams, useSearchParams } from 'react-router';
import type { Person, Property } from '../../api/documents.js';
import { api } from '../api.js';
import { JournalList } from '../parts/journal-list.js';
import { ProgressLine } from '../parts/progress-line.js';
import { QueryView } from '../parts/query-view.js';
import { WorkButton } from '../parts/work-button.js';
import { EnrolmentList } from './property/enrolments.js';
import { StandingInTheWay } from './property/standing-in-the-way.js';

/** Loaded when they are first opened: the first page need not wait for them. */
const SitemapList = lazy(() =>
  import('./property/sitemaps.js').then((module) => ({ default: module.SitemapList })),
);
const VariantsView = lazy(() =>
  import('./property/variants/view.js').then((module) => ({ default: module.VariantsView })),
);

const HistoryView = lazy(() =>
  import('./property/history.js').then((module) => ({ default: module.HistoryView })),
);
const MakingView = lazy(() => import('./making/view.js').then((module) => ({ default: module.MakingView })));
const PublishingView = lazy(() =>
  import('./property/publishing.js').then((module) => ({ default: module.PublishingView })),
);
const RobotsView = lazy(() =>
  import('./property/robots.js').then((module) => ({ default: module.RobotsView })),
);
const SheetView = lazy(() => import('./property/sheet.js').then((module) => ({ default: module.SheetView })));
const AboutProperty = lazy(() =>
  import('./property/about.js').then((module) => ({ default: module.AboutProperty })),
);

interface TabProps {
  readonly property: Property;
  readonly person: Person;
  readonly mayWork: boolean;
}

/** The tabs of a property, in their order. */
const TABS: readonly {
  readonly id: string;
  readonly title: string;
  readonly view: (props: TabProps) => ReactNode;
}[] = [
  { id: 'engines', title: 'Engines', view: (props) => <EnrolmentList {...props} /> },
  { id: 'sheet', title: 'Sheet', view: (props) => <SheetView {...props} /> },
  { id: 'variants', title: 'Variants', view: (props) => <VariantsView {...props} /> },
  { id: 'sitemaps', title: 'Sitemaps', view: (props) => <SitemapList {...props} /> },
  { id: 'making', title: 'Making', view: (props) => <MakingView {...props} /> },
  { id: 'robots', title: 'robots.txt', view: (props) => <RobotsView {...props} /> },
  { id: 'publish', title: 'Publish', view: (props) => <PublishingView {...props} /> },
  { id: 'history', title: 'History', view: (props) => <HistoryView {...props} /> },
  { id: 'journal', title: 'Journal', view: ({ property }) => <JournalList property={property.id} /> },
  { id: 'about', title: 'About', view: (props) => <AboutProperty {...props} /> },
];

const TAB =
  'border-b-2 border-transparent px-1 py-1.5 text-accent data-[state=active]:border-accent data-[state=active]:font-semibold data-[state=active]:text-ink';

function Head({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const { frontDoor, host } = property;
  return (
    <header className="mb-4">
      <p className="text-sm text-faint">{property.client.name}</p>
      <h1 className="text-2xl">{property.handle}</h1>
      <dl className="mt-2 grid gap-x-4 gap-y-1 sm:grid-cols-[7rem_1fr]">
        <dt className="text-sm text-faint">Front door</dt>
        <dd>
          <span className="font-mono text-sm break-all">{frontDoor.forPeople ?? 'not known yet'}</span>
          {frontDoor.says !== null && <span className="block text-sm text-faint">{frontDoor.says}</span>}
        </dd>
        <dt className="text-sm text-faint">Taken on as</dt>
        <dd className="font-mono text-sm break-all">
          {property.addressForPeople}
          {host.ascii !== host.unicode && <span className="block text-faint">{property.address}</span>}
        </dd>
      </dl>
      <TakingOn property={property} />
      {mayWork && (
        <div className="mt-3 flex flex-wrap gap-3">
          <WorkButton start={() => api.check({ body: { enrolments: [property.handle] } })}>
            Check all
          </WorkButton>
        </div>
      )}
      <StandingInTheWay property={property} />
    </header>
  );
}

/** How far its taking on is, and what of it comes next. */
function TakingOn({ property }: { property: Property }) {
  const yard = useQuery({
    queryKey: ['yard row', property.id],
    queryFn: () => api.yard({ query: { property: property.id } }),
  });
  const row = yard.data?.items[0];
  return <p className="mt-2 min-h-5">{row && <ProgressLine progress={row.progress} long />}</p>;
}

/** One property: where it stands at each engine, its sitemaps, its journal. */
export function PropertyPage({ person }: { person: Person }) {
  const { handle = '' } = useParams();
  const [search, setSearch] = useSearchParams();
  const property = useQuery({
    queryKey: ['property', handle],
    queryFn: () => api.showProperty({ params: { property: handle } }),
  });
  const mayWork = person.role !== 'onlooker';
  return (
    <QueryView query={property}>
      {(one) => (
        <>
          <Head property={one} mayWork={mayWork} />
          <Tabs.Root
            value={search.get('tab') ?? 'engines'}
            onValueChange={(tab) => {
              setSearch(tab === 'engines' ? {} : { tab }, { replace: true });
            }}
          >
            <Tabs.List
              aria-label="About this property"
              className="mb-3 flex flex-wrap gap-x-5 border-b border-rule"
            >
              {TABS.map(({ id, title }) => (
                <Tabs.Trigger key={id} value={id} className={TAB}>
                  {title}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            {TABS.map(({ id, title, view }) => (
              <Tabs.Content key={id} value={id}>
                <Suspense fallback={<p className="waiting text-faint">Opening {title} …</p>}>
                  {view({ property: one, person, mayWork })}
                </Suspense>
              </Tabs.Content>
            ))}
          </Tabs.Root>
        </>
      )}
    </QueryView>
  );
}
