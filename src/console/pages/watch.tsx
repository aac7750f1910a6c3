import type { Pause, Person, Watch, WatchedThing } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { spanWords } from '../../api/span-words.js';
import { Link } from 'react-router';
import { api } from '../api.js';
import { Choice } from '../parts/choice.js';
import { DayField, dayUnder } from '../parts/day-field.js';
import { Field } from '../parts/field.js';
import { FormSheet } from '../parts/form-sheet.js';
import { chosen, Pick, useNarrowing } from '../parts/narrow.js';
import { Notice } from '../parts/notice.js';
import { PageTurner, usePages } from '../parts/pages.js';
import { QueryView } from '../parts/query-view.js';
import { TableHead } from '../parts/table-head.js';
import { When } from '../parts/when.js';
import { given } from '../../api/given.js';

const AT_ONCE = 50;
/** Milliseconds between two looks at what is due. */
const AGAIN_MS = 15_000;

const WHAT: Readonly<Record<WatchedThing['what'], string>> = {
  placement: 'placement',
  variants: 'variants',
  sitemap: 'sitemap',
};
const WHY: Readonly<Record<WatchedThing['why'], string>> = {
  rhythm: '',
  again: 'again soon: the last check failed or found something',
  alarm: 'soon: another check of this property failed or found something',
};

/** How the watch is, in a few sentences. */
function How({ watch }: { watch: Watch }) {
  const { on, counts, pastDay, cutOff, nextAt } = watch;
  const { placement = 0, variants = 0, sitemap = 0, due = 0, underWay = 0 } = counts;
  return (
    <div className="mb-4">
      {!on && (
        <Notice kind="stops">
          The watch is off, by the setting watch.on: nothing is looked at by itself.
        </Notice>
      )}
      {cutOff && <Notice kind="stops">{cutOff.says}</Notice>}
      <p>
        Watched: {counted(placement, 'placement')}, the variants of{' '}
        {counted(variants, 'property', 'properties')}, {counted(sitemap, 'sitemap')}. {due} due now,{' '}
        {underWay} under way
        {nextAt !== null && due === 0 && (
          <>
            , next <When time={nextAt} />
          </>
        )}
        .
      </p>
      {pastDay.looks > 0 && (
        <p className="text-sm text-faint">
          In the past day {counted(pastDay.looks, 'check')}, {pastDay.failed} without a result; median delay{' '}
          {spanWords(pastDay.lateMedian)}, the longest {spanWords(pastDay.lateMost)}.
        </p>
      )}
    </div>
  );
}

function nameOf({ property, client }: Pause): string {
  return property ?? (client === null ? 'everything' : `client ${client}`);
}

function pauseOf({ property, client }: Pause) {
  if (property !== null) return { property };
  return client === null ? { all: true as const } : { client };
}

function Pauses({ pauses, mayWork }: { pauses: readonly Pause[]; mayWork: boolean }) {
  return (
    <section className="mb-5" aria-label="Pauses">
      <div className="mb-1 flex flex-wrap items-center gap-x-4">
        <h2 className="mr-auto text-lg">Paused</h2>
        {mayWork && <PauseSheet />}
      </div>
      {pauses.length === 0 ? (
        <p className="border-y border-rule bg-sheet px-3 py-2 text-faint">Nothing is paused.</p>
      ) : (
        <ul className="border-b border-rule bg-sheet">
          {pauses.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center gap-x-4 border-t border-rule px-3 py-2">
              <span className="font-semibold">{nameOf(one)}</span>
              <span className="mr-auto">
                {one.why}{' '}
                <span className="text-sm text-faint">
                  since <When time={one.since} />
                  {one.who !== null && `, by ${one.who}`}
                  {one.until !== null && (
                    <>
                      , until <When time={one.until} />
                    </>
                  )}
                </span>
              </span>
              {mayWork && (
                <FormSheet
                  opener={`Resume ${nameOf(one)}`}
                  title={`Resume ${nameOf(one)}`}
                  says="Whatever is due is checked within a minute."
                  send="Resume"
                  onSend={() => api.resumeWatch({ body: pauseOf(one) })}
                >
                  <p className="mb-2">Paused because: {one.why}.</p>
                </FormSheet>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What a pause is of, as the form asks for it. */
const OF = [
  ['property', 'one property'],
  ['client', 'all of one client'],
  ['all', 'everything'],
] as const;

function PauseSheet() {
  return (
    <FormSheet
      opener="Pause"
      title="Pause the watch"
      says="Nothing is checked until then, or until somebody resumes it."
      send="Pause"
      onSend={async ({ of = '', name = '', why = '', until }) =>
        api.pauseWatch({
          body: {
            ...(of === 'all' ? { all: true } : { [of]: name }),
            why,
            ...(await dayUnder('until', until)),
          },
        })
      }
    >
      <Choice label="What" name="of" options={OF} />
      <Field label="Which" name="name" hint="Its handle; leave it empty for everything." />
      <Field label="Why" name="why" required maxLength={300} />
      <DayField label="Until" name="until" hint="Leave it empty to pause until somebody resumes it." />
    </FormSheet>
  );
}

function Things({ items }: { items: readonly WatchedThing[] }) {
  return (
    <table className="w-full border-y border-rule bg-sheet text-sm [&_td]:border-t [&_td]:border-rule [&_td]:py-1.5 [&_td]:pr-4 [&_th]:py-1.5 [&_tr>:first-child]:pl-3">
      <caption className="sr-only">What is looked at by itself, the soonest due first</caption>
      <TableHead titles={['Due', 'What', 'Of', 'Every', 'Last checked', 'Why']} className="text-left" />
      <tbody>
        {items.map((one) => (
          <tr key={one.id}>
            <td className="whitespace-nowrap">
              <When time={one.dueAt} />
            </td>
            <td>{WHAT[one.what]}</td>
            <td className="wrap-anywhere">
              <Link to={`/properties/${one.property.handle}`}>{one.subject}</Link>
            </td>
            <td className="whitespace-nowrap">{spanWords(one.every)}</td>
            <td className="whitespace-nowrap">
              {one.lookedAt === null ? 'never' : <When time={one.lookedAt} />}
            </td>
            <td className="text-faint">{one.paused === null ? WHY[one.why] : `paused: ${one.paused}`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const WHICH = [{ id: 'due', title: 'due now' }];

/** What is looked at by itself: how it goes, what is left alone, and what is due next. */
export function WatchPage({ person }: { person: Person }) {
  const narrowing = useNarrowing();
  const { which } = chosen(narrowing, ['which']);
  const pages = usePages(
    ['watch', which],
    (after) =>
      api.showWatch({
        query: {
          limit: AT_ONCE,
          ...(which === 'due' ? { due: true } : {}),
          ...given({ after }),
        },
      }),
    AGAIN_MS,
  );
  return (
    <>
      <h1 className="mb-2 text-2xl">The watch</h1>
      <QueryView query={pages.query}>
        {(watch) => (
          <>
            <How watch={watch} />
            <Pauses pauses={watch.pauses} mayWork={person.role !== 'onlooker'} />
            <section aria-label="Checks">
              <div className="mb-1 flex flex-wrap items-center gap-x-4">
                <h2 className="mr-auto text-lg">Checks</h2>
                <Pick
                  narrowing={narrowing}
                  name="which"
                  label="Show"
                  all="all, soonest first"
                  options={WHICH}
                />
              </div>
              {watch.items.length === 0 ? (
                <Notice kind="note">
                  {which === 'due'
                    ? 'Nothing is due now.'
                    : 'Nothing is watched yet: take on a property first.'}
                </Notice>
              ) : (
                <div className="overflow-x-auto">
                  <Things items={watch.items} />
                </div>
              )}
            </section>
          </>
        )}
      </QueryView>
      <PageTurner pages={pages} />
    </>
  );
}
