import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { isAsking } from '../../../api/asks.js';
import type { Contact, Property } from '../../../api/documents.js';
import { ApiProblem } from '../../../client/client.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Choice } from '../../parts/choice.js';
import { DayField, dayUnder } from '../../parts/day-field.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { save } from '../../parts/save.js';
import { Sheet } from '../../parts/sheet.js';
import { When } from '../../parts/when.js';
import { Mono } from '../notifications/mono.js';

/** The report of the last thirty days to one of the client’s people, seen before it goes. */
function SendReport({ client }: { client: Property['client'] }) {
  const [open, setOpen] = useState(false);
  const people = useQuery({
    queryKey: ['contacts', client.id],
    queryFn: () => api.listContacts({ query: { client: client.id } }),
    enabled: open,
  });
  return (
    <Sheet
      opener="Send it"
      look="plain"
      title={`The report of ${client.name}`}
      says="The last thirty days, as a mail in the language of whoever gets it, with the whole report as a page beside it."
      open={open}
      onOpen={setOpen}
      wide
    >
      <QueryView query={people}>
        {({ items }) => {
          const reached = items.filter(({ email }) => email !== null);
          return reached.length === 0 ? (
            <p>Nobody of the client’s has an address for mail yet: note one under Letters.</p>
          ) : (
            <Sending
              client={client}
              people={reached}
              done={() => {
                setOpen(false);
              }}
            />
          );
        }}
      </QueryView>
    </Sheet>
  );
}

function Sending({
  client,
  people,
  done,
}: {
  client: Property['client'];
  people: readonly Contact[];
  done: () => void;
}) {
  const owners = people.filter(({ role }) => role === 'owner');
  const [to, setTo] = useState((owners[0] ?? people[0])?.id ?? '');
  const person = people.find(({ id }) => id === to);
  const language = person?.language ?? 'en';
  const params = { client: client.id };
  const written = useQuery({
    queryKey: ['report written', client.id, language],
    queryFn: () => api.writeReport({ params, query: { language } }),
  });
  const send = useMutation({
    mutationFn: (anyway: boolean) =>
      api.keepReport({ params, body: { contact: to, language, ...(anyway ? { anyway } : {}) } }),
    onSuccess: async () => {
      done();
      await queries.invalidateQueries({ queryKey: ['client reports', client.id] });
    },
  });
  const isAsked = send.error instanceof ApiProblem && isAsking(send.error.problem.code);
  return (
    <>
      <Choice
        label="To"
        name="to"
        value={to}
        options={people.map(({ id, name, email, role }) => [id, `${name}, ${role}, ${email ?? ''}`] as const)}
        onChoose={(id) => {
          send.reset();
          setTo(id);
        }}
      />
      <QueryView query={written}>
        {({ mail }) => (
          <>
            <p className="font-semibold">{mail.subject}</p>
            <Mono>{mail.text}</Mono>
          </>
        )}
      </QueryView>
      {send.error && <Notice kind="stops">{sayError(send.error).replace(/ Say “anyway”.*$/u, '')}</Notice>}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button
          look="main"
          disabled={send.isPending || !written.data}
          onClick={() => {
            send.mutate(false);
          }}
        >
          Send it to {person?.name}
        </Button>
        {isAsked && (
          <Button
            disabled={send.isPending}
            onClick={() => {
              send.mutate(true);
            }}
          >
            All the same
          </Button>
        )}
      </div>
    </>
  );
}

/** What its owner is told, written now, kept, and sent. */
export function Report({ client, mayWork }: { client: Property['client']; mayWork: boolean }) {
  const params = { client: client.id };
  const kept = useQuery({
    queryKey: ['client reports', client.id],
    queryFn: () => api.listKeptReports({ params, query: { limit: 10 } }),
  });
  const write = useMutation({
    mutationFn: async ({ act, from, to }: { act: string; from: string; to: string }) => {
      const span = { ...(await dayUnder('from', from)), ...(await dayUnder('to', to)) };
      if (act === 'keep') return (await api.keepReport({ params, body: span })).title;
      const { title, html } = await api.writeReport({ params, query: span });
      save(`${client.handle}-report.html`, html, 'text/html');
      return title;
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ['client reports', client.id] }),
  });
  return (
    <section aria-labelledby="report" className="border border-rule bg-sheet p-4">
      <h2 id="report" className="text-lg">
        Report for the owner
      </h2>
      <p className="mb-2 text-sm text-faint">
        How each website stands, what changed, what was done, on two pages; the last thirty days where nothing
        is said.
      </p>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event: FormEvent<HTMLFormElement>) => {
          event.preventDefault();
          const pressed = (event.nativeEvent as SubmitEvent).submitter as HTMLButtonElement | null;
          const given = new FormData(event.currentTarget);
          const typed = (name: string) => String(given.get(name) ?? '').trim();
          write.mutate({ act: pressed?.value ?? '', from: typed('from'), to: typed('to') });
        }}
      >
        <DayField label="From" name="from" />
        <DayField label="To" name="to" />
        <span className="mb-3 flex gap-2">
          <Button type="submit" look="main" value="page" disabled={write.isPending}>
            Page to send or print
          </Button>
          {mayWork && (
            <>
              <SendReport client={client} />
              <Button type="submit" value="keep" disabled={write.isPending}>
                Keep it as it is
              </Button>
            </>
          )}
        </span>
      </form>
      <p role="status" className="text-sm text-faint">
        {write.data}
      </p>
      {write.error && <Notice kind="stops">{sayError(write.error)}</Notice>}
      <ul className="mt-2 text-sm" aria-label="Reports that were kept">
        {kept.data?.items.map(({ id, title, at, sentTo }) => (
          <li key={id} className="border-t border-rule py-1">
            <When time={at} />{' '}
            <Button
              look="quiet"
              onClick={() => {
                void api.showKeptReport({ params: { id } }).then(({ html }) => {
                  save(`${client.handle}-report.html`, html, 'text/html');
                });
              }}
            >
              {title}
            </Button>
            {sentTo !== null && <span className="text-faint"> to {sentTo}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
