import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { JournalEntry, NextStep, Person } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { api } from '../api.js';
import { QueryView } from '../parts/query-view.js';
import { When } from '../parts/when.js';
import { SettlingList } from '../parts/settling.js';
import { AlertLine, titleOfAlert } from './alert-line.js';
import { keyOfStep, STEP_COLUMNS, StepLine, titleOfStep } from './step-line.js';

/** Of each kind so much is shown; the rest is a page away. */
const SHOWN = 8;
/** What is left until a day is none of the morning’s. */
const PUT_OFF = 'put-off';
const DAY_MS = 24 * 3_600_000;

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

interface StepsProps {
  narrow: { acts?: NextStep['acts']; person?: 'me' };
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
        return (
          <>
            <SettlingList
              rows={items}
              keyOf={keyOfStep}
              titleOf={titleOfStep}
              none={<Nothing>{none}</Nothing>}
            >
              {(entry) => <StepLine entry={entry} mayWork={mayWork} />}
            </SettlingList>
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
      {counted(pastDay.looks, 'check')} in the past day, {counts['due'] ?? 0} due now{paused}
    </span>
  );
}

/** The first page of the day: what slipped, what is to be done, what waits, what the night brought, and who did what. */
export function MorningPage({ person }: { person: Person }) {
  const mayWork = person.role !== 'onlooker';
  const alerts = useQuery({
    queryKey: ['alerts', 'morning'],
    queryFn: () => api.listAlerts({ query: { limit: SHOWN } }),
  });
  return (
    <>
      <div className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl">This morning</h1>
        <WatchLine />
      </div>
      <Part title="Alerts">
        <QueryView query={alerts} rows={3}>
          {({ items, counts }) => {
            const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
            return (
              <>
                <SettlingList
                  rows={items}
                  keyOf={({ id }) => id}
                  titleOf={titleOfAlert}
                  none={<Nothing>Nothing slipped, nothing was lost, nothing is about to.</Nothing>}
                >
                  {(one) => <AlertLine one={one} mayWork={mayWork} />}
                </SettlingList>
                {all > items.length && (
                  <Link to="/alerts" className="text-sm">
                    all {all}
                  </Link>
                )}
              </>
            );
          }}
        </QueryView>
      </Part>
      <Part title="Handed to you">
        <Steps narrow={{ person: 'me' }} none="Nothing is handed to you." mayWork={mayWork} />
      </Part>
      <Part title="The clients’ to do" more="worst and oldest harm first">
        <Steps narrow={{ acts: 'client' }} none="Nothing is with a client." mayWork={mayWork} />
      </Part>
      <Part title="Ours to do" more="worst and oldest harm first">
        <Steps narrow={{ acts: 'us' }} none="Nothing is ours to do." mayWork={mayWork} />
      </Part>
      <Part title="The engines’ to do">
        <Steps narrow={{ acts: 'engine' }} none="Nothing is with an engine." mayWork={mayWork} />
      </Part>
      <Part title="Waiting" more="for time to pass, and until when">
        <Steps narrow={{ acts: 'time' }} none="Nothing waits." mayWork={mayWork} />
      </Part>
      <Part title="What the watch saw" more="in the past day">
        <Happened who="service" none="Nothing changed." />
      </Part>
      <Part title="Done by people" more="in the past day">
        <Happened who="people" none="Nobody has done anything." />
      </Part>
    </>
  );
}
