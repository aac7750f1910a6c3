import { useQuery } from '@tanstack/react-query';
import type { Person, WorkEntry } from '../../api/documents.js';
import type { InputOf } from '../../api/routes.js';
import { api } from '../api.js';
import { chosen, Find, Pick, useNarrowing } from '../parts/narrow.js';
import { Notice } from '../parts/notice.js';
import { PageTurner, usePages } from '../parts/pages.js';
import { QueryView } from '../parts/query-view.js';
import { TagMark } from '../parts/tag-mark.js';
import { WhoseToken } from '../parts/whose-token.js';
import { SettlingList } from '../parts/settling.js';
import { keyOfStep, StepLine, titleOfStep } from './step-line.js';
import { given } from '../../api/given.js';

const AT_ONCE = 50;
type Query = NonNullable<InputOf<'worklist'>['query']>;

const ACTORS = [
  { id: 'us', title: 'us' },
  { id: 'client', title: 'the client’s people' },
  { id: 'engine', title: 'the engine' },
  { id: 'time', title: 'nobody: it takes time' },
];

function kindInWords(kind: string): string {
  return kind.replaceAll('-', ' ');
}

/** The badges that an entry touches, one mark for each kind. */
function Badges({ entry }: { entry: WorkEntry }) {
  const { enrolments, step } = entry;
  if (enrolments.length === 0)
    return (
      <span className="text-sm text-faint">
        {step.kind === 'mend-site' ? 'the website itself' : 'not enrolled there'}
      </span>
    );
  const badges = [...new Set(enrolments.map(({ badge }) => badge))];
  return (
    <span className="flex flex-wrap gap-x-3">
      {badges.map((badge) => (
        <TagMark key={badge} badge={badge} label={badge} />
      ))}
    </span>
  );
}

/** At which engines, and with which badges. */
function Where({ entry }: { entry: WorkEntry }) {
  const { engines } = entry;
  return (
    <>
      {engines.length === 0 ? '' : ` at ${engines.map(({ title }) => title).join(', ')}`}
      <span className="block">
        <Badges entry={entry} />
      </span>
    </>
  );
}

const WHOSE = [
  { id: 'me', title: 'me' },
  { id: 'nobody', title: 'nobody in particular' },
];

/** Everything that can be done or is waited for, worst and oldest harm first, a page at a time. */
export function NextPage({ person }: { person: Person }) {
  const narrowing = useNarrowing();
  const mayWork = person.role !== 'onlooker';
  const persons = useQuery({
    queryKey: ['session', 'persons'],
    queryFn: () => api.listPersons({}),
    enabled: mayWork,
  });
  const colleagues = (persons.data?.items ?? []).filter(({ name }) => name !== person.name);
  const whose = [...WHOSE, ...colleagues.map(({ name }) => ({ id: name, title: name }))];
  const narrow = chosen(narrowing, ['kind', 'acts', 'person', 'match']) as Query;
  const pages = usePages(['worklist', narrow], (after) =>
    api.worklist({ query: { ...narrow, limit: AT_ONCE, ...given({ after }) } }),
  );
  const others = chosen(narrowing, ['acts', 'person', 'match']) as Query;
  const kinds = usePages(['worklist kinds', others], () => api.worklist({ query: { ...others, limit: 1 } }));
  const counts = Object.entries(kinds.query.data?.counts ?? {});
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="mr-auto text-2xl">Next steps</h1>
        <Pick
          narrowing={narrowing}
          name="kind"
          label="Kind"
          all={`all, ${String(counts.reduce((sum, [, count]) => sum + count, 0))}`}
          options={counts.map(([id, count]) => ({ id, title: `${kindInWords(id)}, ${String(count)}` }))}
        />
        <Pick narrowing={narrowing} name="acts" label="Up to" all="anybody" options={ACTORS} />
        <Pick narrowing={narrowing} name="person" label="Handed to" all="anybody" options={whose} />
        <Find
          narrowing={narrowing}
          hint="name, address or token"
          whose={(text) => <WhoseToken text={text} />}
        />
      </div>
      <QueryView query={pages.query}>
        {({ items }) => (
          <SettlingList
            // Another list begins with nothing done.
            key={JSON.stringify(narrow)}
            rows={items}
            keyOf={keyOfStep}
            titleOf={titleOfStep}
            none={
              <Notice kind="note">
                {Object.keys(narrow).length === 0
                  ? 'Nothing to do: every badge is held, every sitemap read.'
                  : 'Nothing of that kind to do.'}
              </Notice>
            }
          >
            {(entry) => (
              <StepLine entry={entry} mayWork={person.role !== 'onlooker'} where={<Where entry={entry} />} />
            )}
          </SettlingList>
        )}
      </QueryView>
      <PageTurner pages={pages} />
    </>
  );
}
