import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import type { Publication, Target, Job, NewTarget, Person, Property } from '../../../api/documents.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Choice } from '../../parts/choice.js';
import { Field } from '../../parts/field.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';

type Act = Publication['steps'][number]['act'];

const ACTS: Readonly<Record<Act, { title: string; tone: string }>> = {
  put: { title: 'put', tone: 'text-good' },
  replace: { title: 'replace', tone: 'text-good' },
  leave: { title: 'leave', tone: 'text-faint' },
  refuse: { title: 'refuse', tone: 'text-stops' },
  'take-away': { title: 'remove', tone: 'text-harms' },
};

/** What is done at each target, or would be. */
function Steps({ job }: { job: Job }) {
  return (
    <>
      {job.items.map(({ id, subject, result }) => (
        <section key={id} className="mb-4">
          <h3 className="font-mono text-sm break-all">{subject}</h3>
          {result?.publication && (
            <table className="mt-1 w-full text-sm">
              <tbody>
                {result.publication.steps.map(({ act, name, says, done }) => (
                  <tr
                    key={`${act} ${name} ${says}`}
                    className="border-t border-rule align-baseline max-md:block max-md:py-1"
                  >
                    <td className={`w-24 py-1 pr-3 font-semibold max-md:inline ${ACTS[act].tone}`}>
                      {ACTS[act].title}
                      {done && ' ✓'}
                    </td>
                    <th
                      scope="row"
                      className="py-1 pr-4 font-mono text-[13px] font-normal break-all max-md:inline"
                    >
                      {name}
                    </th>
                    <td className="py-1 max-md:block">{says}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <p className={`mt-1 text-sm ${result?.stops === true ? 'text-stops' : 'text-faint'}`}>
            {result?.says}
          </p>
        </section>
      ))}
    </>
  );
}

function usePublish(property: string, body: { plan?: boolean; takeAway?: boolean }) {
  return useMutation({
    mutationFn: async () => api.finished(await api.publish({ params: { property }, body })),
    onSettled: () => queries.invalidateQueries(),
  });
}

function Plan({ property, mayWork }: { property: string; mayWork: boolean }) {
  const [takeAway, setTakeAway] = useState(false);
  const plan = usePublish(property, { plan: true });
  const publish = usePublish(property, { takeAway });
  const steps = plan.data?.items.flatMap(({ result }) => result?.publication?.steps ?? []) ?? [];
  const many = steps.filter(
    ({ act }) => act === 'put' || act === 'replace' || (act === 'take-away' && takeAway),
  ).length;
  const isLeft = steps.some(({ act }) => act === 'take-away');
  const shown = publish.data ?? plan.data;
  const error = publish.error ?? plan.error;
  return (
    <section aria-label="What would be published" className="mb-6">
      {mayWork && (
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <Button
            look={plan.data ? 'plain' : 'main'}
            disabled={plan.isPending || publish.isPending}
            onClick={() => {
              publish.reset();
              plan.mutate();
            }}
          >
            See what would be published
          </Button>
          {plan.data && !publish.data && (
            <Button
              look="main"
              disabled={many === 0 || publish.isPending}
              onClick={() => {
                publish.mutate();
              }}
            >
              {`Publish ${String(many)}`}
            </Button>
          )}
          {isLeft && !publish.data && (
            <label className="flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                checked={takeAway}
                onChange={(event) => {
                  setTakeAway(event.target.checked);
                }}
              />
              and remove what is no longer needed
            </label>
          )}
          <span role="status" className="text-sm text-faint">
            {plan.isPending && 'Planning …'}
            {publish.isPending && 'Publishing …'}
          </span>
        </div>
      )}
      {error && <Notice kind="stops">{sayError(error)}</Notice>}
      {shown && <Steps job={shown} />}
    </section>
  );
}

const WAYS: readonly (readonly [NewTarget['way'], string])[] = [
  ['sftp', 'a web root by SFTP'],
  ['ftps', 'a web root by FTP under TLS'],
  ['webdav', 'a web root by WebDAV'],
  ['folder', 'a folder of the service’s machine'],
  ['dns', 'a zone that takes updates'],
];

function AddTarget({ property }: { property: string }) {
  const [way, setWay] = useState<NewTarget['way']>('sftp');
  const add = useMutation({
    mutationFn: (body: NewTarget) => api.addTarget({ params: { property }, body }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['targets', property] }),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string) => String(form.get(name) ?? '').trim();
    const given = (names: readonly (keyof NewTarget)[]) =>
      Object.fromEntries(names.flatMap((name) => (text(name) === '' ? [] : [[name, text(name)]])));
    add.mutate({
      way,
      ...given(['root', 'host', 'user', 'zone', 'keyName', 'secret', 'role']),
      ...(text('port') === '' ? {} : { port: Number(text('port')) }),
      ...(form.get('watchMay') === null ? {} : { watchMay: true }),
    });
  };
  const isFiles = way !== 'dns';
  return (
    <details>
      <summary className="cursor-pointer text-accent">Add a target</summary>
      <form onSubmit={submit} className="mt-2 max-w-xl">
        <label className="mb-3 block text-sm font-semibold">
          What it is
          <select
            value={way}
            onChange={(event) => {
              setWay(event.target.value as NewTarget['way']);
            }}
            className="mt-1 block w-full rounded-sm border border-faint bg-paper px-2 py-1.5 font-normal"
          >
            {WAYS.map(([value, title]) => (
              <option key={value} value={value}>
                {title}
              </option>
            ))}
          </select>
        </label>
        {way !== 'folder' && <Field label="Host" name="host" required />}
        {way !== 'folder' && (
          <Field label="Port" name="port" inputMode="numeric" hint="Only if it is not the usual one." />
        )}
        {isFiles && way !== 'folder' && <Field label="Login" name="user" required autoComplete="off" />}
        {isFiles && <Field label="Folder that is the web root" name="root" required />}
        {way === 'dns' && <Field label="Zone" name="zone" required />}
        {way === 'dns' && <Field label="Name of its key" name="keyName" required />}
        {way !== 'folder' && (
          <Field
            label={way === 'dns' ? 'The key, in base 64' : 'Password, or private key'}
            name="secret"
            type="password"
            required
            autoComplete="off"
            hint="Sealed for this target alone, and never shown again."
          />
        )}
        <Choice
          label="Who may publish there"
          name="role"
          options={[
            ['consultant', 'consultants'],
            ['lead', 'leads alone'],
          ]}
        />
        <label className="mb-3 flex items-center gap-2 text-sm">
          <input type="checkbox" name="watchMay" />
          The watch may put back what has gone
        </label>
        <Button type="submit" disabled={add.isPending}>
          Add it
        </Button>
        <div className="mt-2 min-h-8">{add.error && <Notice kind="stops">{sayError(add.error)}</Notice>}</div>
      </form>
    </details>
  );
}

function Targets({ targets }: { targets: readonly Target[] }) {
  return (
    <ul className="mb-4 text-sm">
      {targets.map(({ id, way, says, role, watchMay, pin, pinnedAt }) => (
        <li key={id} className="border-t border-rule py-1.5">
          <span className="mr-2 font-semibold">{way}</span>
          <span className="font-mono break-all">{says}</span>
          <span className="block text-faint">
            {role === 'lead' ? 'for leads alone' : 'for consultants'}
            {watchMay && ', the watch puts back what has gone'}
            {pin !== null && (
              <>
                , known by <span className="font-mono break-all">{pin}</span> since <When time={pinnedAt} />
              </>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Where files and records of a property belong, and what is to be published there. */
export function PublishingView({ property, person }: { property: Property; person: Person }) {
  const targets = useQuery({
    queryKey: ['targets', property.id],
    queryFn: () => api.listTargets({ params: { property: property.id } }),
  });
  return (
    <QueryView query={targets} rows={2}>
      {({ items }) => (
        <>
          {items.length > 0 ? (
            <Targets targets={items} />
          ) : (
            <p className="mb-3">
              No target yet. Add one where the agency has access to the web root or the DNS zone: tokens,
              sitemaps and the robots.txt are then published from here. A meta tag cannot be published by an
              open protocol; whoever looks after the pages puts it in.
            </p>
          )}
          {items.length > 0 && <Plan property={property.id} mayWork={person.role !== 'onlooker'} />}
          {person.role === 'lead' && <AddTarget property={property.id} />}
        </>
      )}
    </QueryView>
  );
}
