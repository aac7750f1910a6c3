import { useQuery } from '@tanstack/react-query';
import type { Account, Engine, LinkState, Person, Role } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';
import { Adopting } from './adopting.js';
import { given } from '../../../api/given.js';

const WORKED: Readonly<Record<Engine['worked'], string>> = {
  link: 'Linked',
  hand: 'Manual',
  house: 'Run by the agency itself',
  borrowed: 'Shows another engine’s results',
};

function audienceOf({ audience, share }: Engine): string {
  if (audience === 'everyone') {
    const everywhere = share['everywhere'];
    return everywhere === undefined ? 'everyone' : `everyone, about ${String(everywhere)} %`;
  }
  return audience
    .map((country) => (share[country] === undefined ? country : `${country} ${String(share[country])} %`))
    .join(', ');
}

function keyOf({ key }: Account): string {
  switch (key.from) {
    case 'environment':
      return key.ready ? `from ${key.variable ?? ''}` : `${key.variable ?? ''} is not set`;
    case 'sealed':
      return 'kept sealed';
    case 'none':
      return 'none yet';
    case 'not-needed':
      return 'needs none';
  }
}

/** How a link stands for one kind of work, when it is not simply answering. */
function Trouble({ link }: { link: LinkState }) {
  return (
    <li className="text-sm">
      <span className={link.state === 'waits' ? 'font-semibold text-harms' : 'font-semibold text-stops'}>
        {link.state === 'waits' ? 'Switched off' : 'No answer'}: {link.work}
      </span>{' '}
      {link.until !== null && (
        <>
          until <When time={link.until} />{' '}
        </>
      )}
      <span className="text-faint">
        {link.says} Since <When time={link.since} />.
      </span>
    </li>
  );
}

function Link({ account, worked }: { account: Account; worked: Engine['worked'] }) {
  if (worked !== 'link') return <span className="text-faint">none needed</span>;
  const troubles = account.links.filter(({ state }) => state !== 'answers');
  const last = account.links[0];
  if (troubles.length > 0)
    return (
      <ul>
        {troubles.map((link) => (
          <Trouble key={link.work} link={link} />
        ))}
      </ul>
    );
  if (!last) return <span className="text-faint">not asked yet</span>;
  return (
    <>
      answers{' '}
      <span className="text-faint">
        (last <When time={last.at} />)
      </span>
    </>
  );
}

function AccountRow({ account, engine, role }: { account: Account; engine: Engine; role: Role }) {
  const isLead = role === 'lead';
  const mayWork = role !== 'onlooker';
  return (
    <tr className="border-t border-rule align-top max-md:block max-md:py-2">
      <th scope="row" className="py-1.5 pr-4 max-md:block">
        {account.name}
        {account.passedOn && (
          <span className="block text-sm font-normal text-faint">
            passed on to {account.passedOn.to.name}, <When time={account.passedOn.at} />
          </span>
        )}
      </th>
      <td className="py-1.5 pr-4 max-md:block">{keyOf(account)}</td>
      <td className="py-1.5 pr-4 tabular-nums max-md:block">
        {account.enrolments} <span className="md:sr-only">enrolments</span>
      </td>
      <td className="py-1.5 pr-4 max-md:block">
        <Link account={account} worked={engine.worked} />
      </td>
      <td className="space-x-2 py-1.5 text-right max-md:block max-md:text-left">
        {mayWork && engine.worked === 'link' && <Adopting account={account} engine={engine} />}
        {isLead && engine.worked !== 'house' && <PassOn account={account} />}
      </td>
    </tr>
  );
}

function PassOn({ account }: { account: Account }) {
  const clients = useQuery({
    queryKey: ['clients'],
    queryFn: () => api.listClients({ query: { limit: 500 } }),
  });
  const options = (clients.data?.items ?? []).map(({ handle, name }) => [handle, name] as const);
  return (
    <FormSheet
      opener={account.passedOn ? 'Take back' : 'Pass on'}
      title={`${account.passedOn ? 'Take back' : 'Pass on'} ${account.engine}/${account.name}`}
      says={
        account.passedOn
          ? 'The account is the agency’s again: new properties can be enrolled under it.'
          : 'For an account that a client has now. Nothing new is enrolled under it; what is there is watched on.'
      }
      send={account.passedOn ? 'Take back' : 'Pass on'}
      onSend={({ client }) =>
        api.editAccount(
          { params: { account: account.id }, body: { passedOnTo: client ?? null } },
          { ifMatch: account.version },
        )
      }
    >
      {!account.passedOn && <Choice label="Client" name="client" required options={options} />}
    </FormSheet>
  );
}

function AddAccount({ engine }: { engine: Engine }) {
  return (
    <FormSheet
      opener="Add account"
      title={`Another account at ${engine.title}`}
      says="The key is sealed, and never shown again."
      send="Add account"
      onSend={({ name = '', key }) =>
        api.addAccount({ body: { engine: engine.id, name, ...given({ key }) } })
      }
    >
      <Field label="Name" name="name" required hint="Lower-case letters, digits and hyphens." />
      {engine.worked === 'link' && <Field label="Key" name="key" type="password" autoComplete="off" />}
    </FormSheet>
  );
}

function EngineView({ engine, role }: { engine: Engine; role: Role }) {
  return (
    <section aria-label={engine.title} className="mb-4 border border-rule bg-sheet p-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="text-lg">{engine.title}</h2>
        <span className="text-sm text-faint">
          {engine.from ? `Shows ${engine.from.title}’s results` : WORKED[engine.worked]} · matters to{' '}
          {audienceOf(engine)}
        </span>
      </div>
      {engine.accounts.length > 0 && <Accounts engine={engine} role={role} />}
      <ul className="mt-3 gap-x-8 text-sm md:columns-2">
        {engine.rules.map((rule) => (
          <li key={rule} className="mb-1 break-inside-avoid border-l-2 border-rule pl-2">
            {rule}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Accounts({ engine, role }: { engine: Engine; role: Role }) {
  return (
    <table className="mt-2 w-full table-fixed text-sm max-md:block">
      <caption className="sr-only">Accounts at {engine.title}</caption>
      <thead className="text-faint max-md:sr-only">
        <tr>
          {['Account', 'Key', 'Enrolments', 'Link'].map((title, at) => (
            <th key={title} scope="col" className={`pr-4 pb-1 ${WIDTHS[at] ?? ''}`}>
              {title}
            </th>
          ))}
          <td className="w-56 pb-1 text-right">
            {role === 'lead' && engine.worked !== 'house' && <AddAccount engine={engine} />}
          </td>
        </tr>
      </thead>
      <tbody className="max-md:block">
        {engine.accounts.map((account) => (
          <AccountRow key={account.id} account={account} engine={engine} role={role} />
        ))}
      </tbody>
    </table>
  );
}

const WIDTHS = ['w-[22%]', 'w-[24%]', 'w-[10%]', ''];

/** What engines have switched off or do not answer, before everything else. */
function Troubles({ engines }: { engines: readonly Engine[] }) {
  const all = engines.flatMap((engine) =>
    engine.accounts.flatMap((account) =>
      account.links.filter(({ state }) => state !== 'answers').map((link) => ({ engine, account, link })),
    ),
  );
  if (all.length === 0) return null;
  return (
    <ul className="mb-4 border-l-4 border-rule bg-sheet px-3 py-2">
      {all.map(({ engine, account, link }) => (
        <li key={account.id + link.work}>
          <strong>{engine.title}</strong> <span className="text-faint">({account.name})</span>{' '}
          {link.state === 'waits' ? `has switched ${link.work} off` : `gave no answer about ${link.work}`}
          {link.until === null ? ' since ' : ' until '}
          <When time={link.until ?? link.since} />.{' '}
          <span className="text-faint">
            {link.state === 'waits' ? 'A wait, not a failure; all other work goes on.' : link.says}
          </span>
        </li>
      ))}
    </ul>
  );
}

function AddEngine() {
  return (
    <FormSheet
      opener="Add engine"
      title="Add an engine"
      says="Paste the text of its profile file."
      send="Add engine"
      onSend={({ profile = '' }) => api.addEngine({ body: { profile } })}
    >
      <label className="mb-3 block text-sm font-semibold">
        Profile (YAML)
        <textarea
          name="profile"
          required
          rows={14}
          spellCheck={false}
          className="mt-1 w-full rounded-sm border border-faint bg-paper px-2 py-1.5 font-mono text-[13px] font-normal"
        />
      </label>
    </FormSheet>
  );
}

/** Every engine: its rules, the accounts at it, how their links stand, and what is switched off until when. */
export function EnginesPage({ person }: { person: Person }) {
  const engines = useQuery({ queryKey: ['engines'], queryFn: () => api.listEngines() });
  const isLead = person.role === 'lead';
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl">Engines</h1>
        {isLead && <AddEngine />}
      </div>
      <QueryView query={engines} rows={12}>
        {({ items }) => (
          <>
            <Troubles engines={items} />
            {items.map((engine) => (
              <EngineView key={engine.id} engine={engine} role={person.role} />
            ))}
          </>
        )}
      </QueryView>
    </>
  );
}
