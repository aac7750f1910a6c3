import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Case, JournalEntry, Person } from '../../api/documents.js';
import { counted } from '../../api/counted.js';
import { api } from '../api.js';
import { CopyButton } from '../parts/copy-button.js';
import { QueryView } from '../parts/query-view.js';
import { When } from '../parts/when.js';
import { WorkButton } from '../parts/work-button.js';
import { STEP_COLUMNS, StepLine } from './step-line.js';

/** Of each kind so much is shown; the rest is a page away. */
const SHOWN = 8;
/** What is left until a day is none of the morning’s. */
const PUT_OFF = 'put-off';
const DAY_MS = 24 * 3_600_000;

const CASES: Readonly<Record<string, string>> = {
  lost: 'badge lost',
  slipping: 'token gone',
  'enrolment-lost': 'enrolment lost',
  moved: 'front door moved',
  'stays-away': 'engines kept out',
  'out-of-reach': 'out of reach',
  'sitemap-unreachable': 'sitemap out of reach',
  'sitemap-fallen': 'sitemap fell',
  'cut-off': 'cut off',
  certificate: 'certificate ends',
  'name-ends': 'name ends',
  'token-ends': 'token ends',
  'reading-overdue': 'reading overdue',
  'sitemap-still': 'sitemap stands still',
  'switched-off': 'switched off',
};
/** Where on a property's page a case is worked at. */
const TABS: Readonly<Record<string, string>> = {
  moved: '?tab=variants',
  'stays-away': '?tab=variants',
  certificate: '?tab=variants',
  'name-ends': '?tab=about',
  'sitemap-unreachable': '?tab=sitemaps',
  'sitemap-fallen': '?tab=sitemaps',
  'sitemap-still': '?tab=sitemaps',
  'reading-overdue': '?tab=sitemaps',
};
const PLACEMENTS = ['lost', 'slipping', 'out-of-reach'];

function Part({ title, more, children }: { title: string; more?: ReactNode; children: ReactNode }) {
  return (
    <section className="mb-6">
      <div className="mb-1 flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-lg">{title}</h2>
        <span className="text-sm text-faint">{more}</span>
      </div>
      {children}
    </section>
  );
}

function Lines({ children }: { children: ReactNode }) {
  return <ol className="border-b border-rule bg-sheet">{children}</ol>;
}

function Nothing({ children }: { children: ReactNode }) {
  return <p className="border-y border-rule bg-sheet px-3 py-2 text-faint">{children}</p>;
}

function LookAgain({ one }: { one: Case }) {
  const enrolments = one.touches.filter((name) => name.includes('@'));
  if (PLACEMENTS.includes(one.kind) && enrolments.length > 0)
    return <WorkButton start={() => api.check({ body: { enrolments } })}>Look again</WorkButton>;
  if (one.property !== null && TABS[one.kind] === '?tab=variants') {
    const properties = [one.property];
    return <WorkButton start={() => api.lookAtVariants({ body: { properties } })}>Look again</WorkButton>;
  }
  return null;
}

/** What stands in the place of a property. */
const NAMES: Readonly<Record<string, string>> = { 'switched-off': 'an engine' };

/** The last good evidence beside the present one, behind a line. */
function Difference({ lines }: { lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <details className="my-1">
      <summary className="text-sm text-accent">what changed</summary>
      <pre className="mt-1 border border-rule bg-paper p-2 font-mono text-[13px] wrap-anywhere whitespace-pre-wrap">
        {lines.join('\n')}
      </pre>
    </details>
  );
}

/** What people were told of: since when, what, whose, what is to be done about it. */
function CaseLine({ one, mayWork }: { one: Case; mayWork: boolean }) {
  return (
    <li className={STEP_COLUMNS}>
      <span className="font-semibold">{CASES[one.kind] ?? one.kind}</span>
      <span>
        {one.property === null ? (
          (NAMES[one.kind] ?? 'this service')
        ) : (
          <Link to={`/properties/${one.property}${TABS[one.kind] ?? ''}`}>{one.property}</Link>
        )}
      </span>
      <span>
        {one.says}
        <Difference lines={one.difference} />
        {mayWork && (
          <span className="mt-1 flex flex-wrap gap-2">
            <LookAgain one={one} />
            {one.remedy !== '' && <CopyButton text={one.remedy} what="what the client is to do" />}
          </span>
        )}
      </span>
      <span className="text-sm text-faint">
        since <When time={one.since} />
        {one.until !== null && (
          <span className="block text-stops">
            until <When time={one.until} />
          </span>
        )}
      </span>
    </li>
  );
}

interface StepsProps {
  narrow: { acts?: 'us' | 'time' | 'engine'; person?: 'me' };
  none: string;
  mayWork: boolean;
}

function Steps({ narrow, none, mayWork }: StepsProps) {
  const query = useQuery({
    queryKey: ['worklist', 'morning', narrow],
    queryFn: () => api.worklist({ query: { ...narrow, limit: SHOWN } }),
  });
  return (
    <QueryView query={query}>
      {({ items: found, counts: { [PUT_OFF]: _, ...counts } }) => {
        const items = found.filter(({ putOff }) => putOff === null);
        const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
        return items.length === 0 ? (
          <Nothing>{none}</Nothing>
        ) : (
          <>
            <Lines>
              {items.map((entry) => (
                <StepLine
                  key={`${entry.step.kind} ${entry.property.id} ${entry.step.says}`}
                  entry={entry}
                  mayWork={mayWork}
                />
              ))}
            </Lines>
            {all > items.length && (
              <Link to={`/next?${new URLSearchParams(narrow).toString()}`} className="text-sm">
                all {all}
              </Link>
            )}
          </>
        );
      }}
    </QueryView>
  );
}

function Happened({ who, none }: { who: 'service' | 'people'; none: string }) {
  const query = useQuery({
    queryKey: ['journal', 'morning', who],
    queryFn: async () => {
      const { now } = await api.whoAmI();
      const from = new Date(Date.parse(now) - DAY_MS).toISOString();
      return api.journal({ query: { who, from, limit: SHOWN } });
    },
  });
  return (
    <QueryView query={query}>
      {({ items }) =>
        items.length === 0 ? (
          <Nothing>{none}</Nothing>
        ) : (
          <Lines>
            {items.map((entry) => (
              <HappenedLine key={entry.seq} entry={entry} />
            ))}
          </Lines>
        )
      }
    </QueryView>
  );
}

function HappenedLine({ entry }: { entry: JournalEntry }) {
  return (
    <li className={STEP_COLUMNS}>
      <span className="text-sm text-faint">
        <When time={entry.at} />
      </span>
      <span>
        {entry.property !== null && <Link to={`/properties/${entry.property}`}>{entry.property}</Link>}
      </span>
      <span className="break-words">{entry.says}</span>
      <span className="text-sm text-faint">{entry.who ?? ''}</span>
    </li>
  );
}

/** What the watch does, in a line. */
function WatchLine() {
  const query = useQuery({
    queryKey: ['watch', 'morning'],
    queryFn: () => api.showWatch({ query: { limit: 1 } }),
  });
  if (!query.data) return <span className="text-sm text-faint"> </span>;
  const { on, pastDay, counts, pauses, cutOff } = query.data;
  if ((counts['variants'] ?? 0) === 0)
    return (
      <span className="text-sm">
        Nothing is taken on yet: <Link to="/">begin in the yard</Link>.
      </span>
    );
  if (!on)
    return <span className="text-sm text-stops">The watch is off: nothing is looked at by itself.</span>;
  if (cutOff) return <span className="text-sm text-stops">{cutOff.says}</span>;
  const paused = pauses.length === 0 ? '' : `, ${counted(pauses.length, 'pause', 'pauses')}`;
  return (
    <span className="text-sm text-faint">
      {counted(pastDay.looks, 'look', 'looks')} in the past day, {counts['due'] ?? 0} due now{paused}
    </span>
  );
}

/** The first page of the day: what slipped, what is to be done, what waits, what the night brought, and who did what. */
export function MorningPage({ person }: { person: Person }) {
  const mayWork = person.role !== 'onlooker';
  const cases = useQuery({
    queryKey: ['cases', 'morning'],
    queryFn: () => api.listCases({ query: { limit: SHOWN } }),
  });
  return (
    <>
      <div className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl">This morning</h1>
        <WatchLine />
      </div>
      <Part title="Told without being asked">
        <QueryView query={cases} rows={3}>
          {({ items, counts }) => {
            const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
            return items.length === 0 ? (
              <Nothing>Nothing slipped, nothing was lost, nothing is about to.</Nothing>
            ) : (
              <>
                <Lines>
                  {items.map((one) => (
                    <CaseLine key={one.id} one={one} mayWork={mayWork} />
                  ))}
                </Lines>
                {all > items.length && (
                  <p className="text-sm text-faint">{all} in all; “yardbadge cases” lists them.</p>
                )}
              </>
            );
          }}
        </QueryView>
      </Part>
      <Part title="Handed to you">
        <Steps narrow={{ person: 'me' }} none="Nothing is handed to you." mayWork={mayWork} />
      </Part>
      <Part title="Ours to do" more="worst and oldest harm first">
        <Steps narrow={{ acts: 'us' }} none="Nothing is ours to do." mayWork={mayWork} />
      </Part>
      <Part title="Waiting" more="for time to pass, and until when">
        <Steps narrow={{ acts: 'time' }} none="Nothing waits." mayWork={mayWork} />
      </Part>
      <Part title="What the looks brought" more="in the past day, by the service itself">
        <Happened who="service" none="Nothing changed." />
      </Part>
      <Part title="Done by people" more="in the past day">
        <Happened who="people" none="Nobody did anything." />
      </Part>
    </>
  );
}
