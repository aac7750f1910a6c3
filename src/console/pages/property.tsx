import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
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
const CarryingView = lazy(() =>
  import('./property/publishing.js').then((module) => ({ default: module.PublishingView })),
);
const RobotsView = lazy(() =>
  import('./property/robots.js').then((module) => ({ default: module.RobotsView })),
);
const SheetView = lazy(() => import('./property/sheet.js').then((module) => ({ default: module.SheetView })));
const AboutProperty = lazy(() =>
  import('./property/about.js').then((module) => ({ default: module.AboutProperty })),
);

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
              <Tabs.Trigger value="engines" className={TAB}>
                Engines
              </Tabs.Trigger>
              <Tabs.Trigger value="sheet" className={TAB}>
                Sheet
              </Tabs.Trigger>
              <Tabs.Trigger value="variants" className={TAB}>
                Variants
              </Tabs.Trigger>
              <Tabs.Trigger value="sitemaps" className={TAB}>
                Sitemaps
              </Tabs.Trigger>
              <Tabs.Trigger value="making" className={TAB}>
                Making
              </Tabs.Trigger>
              <Tabs.Trigger value="robots" className={TAB}>
                robots.txt
              </Tabs.Trigger>
              <Tabs.Trigger value="publish" className={TAB}>
                Publish
              </Tabs.Trigger>
              <Tabs.Trigger value="history" className={TAB}>
                History
              </Tabs.Trigger>
              <Tabs.Trigger value="journal" className={TAB}>
                Journal
              </Tabs.Trigger>
              <Tabs.Trigger value="about" className={TAB}>
                About
              </Tabs.Trigger>
            </Tabs.List>
            <Tabs.Content value="engines">
              <EnrolmentList property={one} mayWork={mayWork} />
            </Tabs.Content>
            <Tabs.Content value="sheet">
              <Suspense fallback={<p className="waiting text-faint">Opening the sheet …</p>}>
                <SheetView property={one} mayWork={mayWork} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="variants">
              <Suspense fallback={<p className="waiting text-faint">Opening the variants …</p>}>
                <VariantsView property={one} mayWork={mayWork} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="sitemaps">
              <Suspense fallback={<p className="waiting text-faint">Opening the sitemaps …</p>}>
                <SitemapList property={one} mayWork={mayWork} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="making">
              <Suspense fallback={<p className="waiting text-faint">Opening how it is made …</p>}>
                <MakingView property={one} mayWork={mayWork} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="robots">
              <Suspense fallback={<p className="waiting text-faint">Opening the rules …</p>}>
                <RobotsView property={one} mayWork={mayWork} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="publish">
              <Suspense fallback={<p className="waiting text-faint">Opening the places …</p>}>
                <CarryingView property={one} person={person} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="history">
              <Suspense fallback={<p className="waiting text-faint">Opening the history …</p>}>
                <HistoryView property={one} />
              </Suspense>
            </Tabs.Content>
            <Tabs.Content value="journal">
              <JournalList property={one.id} />
            </Tabs.Content>
            <Tabs.Content value="about">
              <Suspense fallback={<p className="waiting text-faint">Opening what it is …</p>}>
                <AboutProperty property={one} mayWork={mayWork} />
              </Suspense>
            </Tabs.Content>
          </Tabs.Root>
        </>
      )}
    </QueryView>
  );
}
