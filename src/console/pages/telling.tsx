import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Hook, NewReport, Person, ReportOrder, SentMessage, Telling } from '../../api/documents.js';
import { api, queries } from '../api.js';
import { Button } from '../parts/button.js';
import { Choice } from '../parts/choice.js';
import { CopyButton } from '../parts/copy-button.js';
import { Field } from '../parts/field.js';
import { FormSheet, type Filled } from '../parts/form-sheet.js';
import { Listed, ListedLine } from '../parts/listed.js';
import { chosen, Pick, useNarrowing } from '../parts/narrow.js';
import { PageTurner, usePages } from '../parts/pages.js';
import { QueryView } from '../parts/query-view.js';
import { Sheet } from '../parts/sheet.js';
import { When } from '../parts/when.js';

const YES_NO = [
  ['yes', 'yes'],
  ['no', 'no'],
] as const;

/** What a person is told, in a sentence. */
function toldWords({ email, atOnce, digest, digestAt, zone, clients }: Telling): string {
  if (email === null) return 'is told nothing by mail';
  const how = [
    ...(atOnce ? ['at once of what cannot wait'] : []),
    ...(digest ? [`of the rest at ${digestAt}, ${zone}`] : []),
  ];
  const of = clients === null ? '' : `; of ${clients.length === 0 ? 'no client' : clients.join(', ')} only`;
  return how.length === 0
    ? `is told nothing, at ${email}`
    : `is told ${how.join(', and ')}, at ${email}${of}`;
}

/** What was filled in, as the service takes it. */
function changesOf({ email, zone = 'UTC', digestAt = '07:00', atOnce, digest, clients }: Filled) {
  return {
    email: email ?? null,
    zone,
    digestAt,
    atOnce: atOnce === 'yes',
    digest: digest === 'yes',
    clients: clients === undefined ? null : clients.split(',').map((one) => one.trim()),
  };
}

function EditTelling({ one }: { one: Telling }) {
  return (
    <FormSheet
      opener={`Change ${one.person}`}
      title={`What ${one.person} is told of`}
      says="By mail: at once what cannot wait, and once a day the rest, where there is anything."
      send="Keep it"
      onSend={(filled) => api.editTelling({ params: { person: one.person }, body: changesOf(filled) })}
    >
      <Field
        label="Mail to"
        name="email"
        type="email"
        defaultValue={one.email ?? ''}
        hint="Empty for nowhere."
      />
      <Choice
        label="At once, what cannot wait"
        name="atOnce"
        options={YES_NO}
        value={one.atOnce ? 'yes' : 'no'}
      />
      <Choice label="The rest once a day" name="digest" options={YES_NO} value={one.digest ? 'yes' : 'no'} />
      <Field label="At" name="digestAt" type="time" required defaultValue={one.digestAt} />
      <Field label="Time zone" name="zone" required defaultValue={one.zone} hint="Such as Europe/Berlin." />
      <Field
        label="Of these clients only"
        name="clients"
        defaultValue={one.clients?.join(', ') ?? ''}
        hint="Their handles, with commas between; empty for all."
      />
    </FormSheet>
  );
}

function Tellings() {
  const query = useQuery({ queryKey: ['tellings'], queryFn: () => api.listTellings() });
  return (
    <QueryView query={query} rows={2}>
      {({ items }) => (
        <Listed title="Who is told what" none="Nobody is here.">
          {items.map((one) => (
            <ListedLine key={one.person} name={one.person} act={<EditTelling one={one} />}>
              {toldWords(one)}
            </ListedLine>
          ))}
        </Listed>
      )}
    </QueryView>
  );
}

const EVERY = [
  ['week', 'week, on Monday'],
  ['month', 'month, on the first'],
] as const;
const TO = [
  ['me', 'me'],
  ['contact', 'the client’s contact on record'],
  ['email', 'this address of the client’s people'],
] as const;

/** What was filled in, as the service takes it. */
function orderOf({ client, to, email, every, at = '07:00', zone }: Filled): NewReport {
  return {
    ...(client === undefined ? {} : { client }),
    ...(to === 'me' ? { person: 'me' } : to === 'contact' ? { contact: true } : { email: email ?? '' }),
    every: every === 'month' ? 'month' : 'week',
    at,
    ...(zone === undefined ? {} : { zone }),
  };
}

function OrderReport() {
  return (
    <FormSheet
      opener="Order a report"
      title="A report by mail"
      says="What stands, what changed, and what the client’s people have to do. Whoever gets it can stop it."
      send="Order it"
      onSend={(filled) => api.addReport({ body: orderOf(filled) })}
    >
      <Field
        label="Of the client"
        name="client"
        hint="Its handle; empty for all clients, to one of the agency."
      />
      <Choice label="To" name="to" options={TO} />
      <Field label="Address" name="email" type="email" hint="Where it goes to an address." />
      <Choice label="Every" name="every" options={EVERY} />
      <Field label="At" name="at" type="time" required defaultValue="07:00" />
      <Field label="Time zone" name="zone" hint="Such as Europe/Berlin; empty for yours." />
    </FormSheet>
  );
}

/** What it would say now, in a sheet. */
function ShowReport({ id }: { id: string }) {
  const [open, setOpen] = useState(false);
  const query = useQuery({
    queryKey: ['report', id],
    queryFn: () => api.showReport({ params: { id } }),
    enabled: open,
  });
  return (
    <Sheet
      opener="Show"
      title="If it were sent now"
      says="As plain text; the mail has the same with headings and links."
      open={open}
      onOpen={setOpen}
      wide
    >
      <QueryView query={query}>
        {({ subject, text }) => (
          <>
            <p className="font-semibold">{subject}</p>
            <Mono>{text}</Mono>
          </>
        )}
      </QueryView>
    </Sheet>
  );
}

function Mono({ children }: { children: string }) {
  return (
    <pre className="mt-2 border border-rule bg-paper p-2 font-mono text-[13px] wrap-anywhere whitespace-pre-wrap">
      {children}
    </pre>
  );
}

function reportWords({ client, person, email, every, at, zone }: ReportOrder): string {
  return `of ${client ?? 'all clients'} to ${person ?? email ?? 'nobody'}, every ${every} at ${at}, ${zone}; next`;
}

function Reports({ mayWork }: { mayWork: boolean }) {
  const query = useQuery({ queryKey: ['reports'], queryFn: () => api.listReports() });
  return (
    <QueryView query={query} rows={2}>
      {({ items }) => (
        <Listed title="Reports" none="No report is sent by itself." act={mayWork && <OrderReport />}>
          {items.map((one) => (
            <ListedLine
              key={one.id}
              name="Report"
              act={
                <>
                  <ShowReport id={one.id} />
                  {mayWork && (
                    <FormSheet
                      opener="End"
                      title="Send it no more"
                      says={`The report ${reportWords(one).replace(/; next$/u, '')}.`}
                      send="End it"
                      onSend={() => api.endReport({ params: { id: one.id } })}
                    >
                      <p className="mb-2">What was sent stays where it is.</p>
                    </FormSheet>
                  )}
                </>
              }
            >
              {reportWords(one)} <When time={one.nextAt} />
            </ListedLine>
          ))}
        </Listed>
      )}
    </QueryView>
  );
}

/** An address to be told, and the secret by which requests are signed, which is shown this once. */
function AddHook() {
  const [secret, setSecret] = useState<string | null>(null);
  return (
    <>
      <FormSheet
        opener="Add an address"
        title="An address that is told"
        says="By a signed request for each case (CloudEvents 1.0, RFC 9421), for a program of yours."
        send="Add it"
        onSend={async ({ url = '', client }) => {
          const added = await api.addHook({ body: { url, ...(client === undefined ? {} : { client }) } });
          setSecret(added.secret);
        }}
      >
        <Field label="Address" name="url" type="url" required />
        <Field label="Of the client" name="client" hint="Its handle; empty for all." />
      </FormSheet>
      {secret !== null && (
        <div
          role="status"
          className="mt-2 flex flex-wrap items-center gap-2 border border-rule bg-sheet p-2 text-sm"
        >
          Its requests are signed with this secret, which is not shown again:
          <code className="font-mono wrap-anywhere">{secret}</code>
          <CopyButton text={secret} what="the secret" />
        </div>
      )}
    </>
  );
}

function EndHook({ hook }: { hook: Hook }) {
  return (
    <FormSheet
      opener="Take off"
      title="Tell it no more"
      says={`${hook.url} is told of nothing any more.`}
      send="Take it off"
      onSend={() => api.endHook({ params: { id: hook.id } })}
    >
      <p className="mb-2">What waits to be sent there is given up.</p>
    </FormSheet>
  );
}

function Hooks() {
  const query = useQuery({ queryKey: ['hooks'], queryFn: () => api.listHooks() });
  return (
    <QueryView query={query} rows={2}>
      {({ items }) => (
        <Listed title="Addresses of programs" none="No address is told of cases." act={<AddHook />}>
          {items.map((one) => (
            <ListedLine key={one.id} name={one.url} act={<EndHook hook={one} />}>
              of {one.client ?? 'all clients'}, since <When time={one.createdAt} />
            </ListedLine>
          ))}
        </Listed>
      )}
    </QueryView>
  );
}

const STATES = [
  { id: 'waiting', title: 'waiting' },
  { id: 'dead', title: 'given up' },
  { id: 'sent', title: 'sent' },
];
const STATE: Readonly<Record<SentMessage['state'], string>> = {
  waiting: 'tried next',
  dead: 'given up',
  sent: 'sent',
};
const MESSAGES = 25;
const AGAIN_MS = 30_000;

function ShowMessage({ id, subject }: { id: string; subject: string }) {
  const [open, setOpen] = useState(false);
  const query = useQuery({
    queryKey: ['message', id],
    queryFn: () => api.showMessage({ params: { id } }),
    enabled: open,
  });
  return (
    <Sheet opener="Show" title={subject} says="As it was sent." open={open} onOpen={setOpen} wide>
      <QueryView query={query}>{({ text }) => <Mono>{text}</Mono>}</QueryView>
    </Sheet>
  );
}

function Retry({ id }: { id: string }) {
  const [isTried, setTried] = useState(false);
  const retry = () => {
    setTried(true);
    void api.retryMessage({ params: { id } }).finally(() => queries.invalidateQueries());
  };
  return (
    <Button disabled={isTried} onClick={retry}>
      Send again
    </Button>
  );
}

function Messages() {
  const narrowing = useNarrowing();
  const { state } = chosen(narrowing, ['state']) as { state?: SentMessage['state'] };
  const pages = usePages(
    ['messages', state],
    (after) =>
      api.listMessages({
        query: {
          limit: MESSAGES,
          ...(state === undefined ? {} : { state }),
          ...(after === undefined ? {} : { after }),
        },
      }),
    AGAIN_MS,
  );
  return (
    <>
      <QueryView query={pages.query}>
        {({ items }) => (
          <Listed
            title="Messages"
            none="None like that."
            act={
              <Pick
                narrowing={narrowing}
                name="state"
                label="Show"
                all="all, newest first"
                options={STATES}
              />
            }
          >
            {items.map((one) => (
              <ListedLine
                key={one.id}
                name={one.subject}
                act={
                  <>
                    <ShowMessage id={one.id} subject={one.subject} />
                    {one.state === 'dead' && <Retry id={one.id} />}
                  </>
                }
              >
                to {one.to},{' '}
                <span className={one.state === 'dead' ? 'text-stops' : ''}>{STATE[one.state]}</span>{' '}
                <When time={one.at} />
                {one.fault !== null && `: ${one.fault}`}
              </ListedLine>
            ))}
          </Listed>
        )}
      </QueryView>
      <PageTurner pages={pages} />
    </>
  );
}

/** Who is told what, how, and what was. */
export function TellingPage({ person }: { person: Person }) {
  const isLead = person.role === 'lead';
  return (
    <>
      <h1 className="mb-3 text-2xl">Telling people</h1>
      <Tellings />
      <Reports mayWork={person.role !== 'onlooker'} />
      {isLead && <Hooks />}
      {isLead && <Messages />}
    </>
  );
}
