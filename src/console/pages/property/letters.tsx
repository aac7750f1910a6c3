import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import type { Letter, LetterDraft, LetterInput, Property } from '../../../api/documents.js';
import { ApiProblem } from '../../../client/client.js';
import { api, queries, sayError } from '../../api.js';
import { Button } from '../../parts/button.js';
import { Choice } from '../../parts/choice.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { useNarrowing } from '../../parts/narrow.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { When } from '../../parts/when.js';

const ROLES = [
  ['developer', 'makes its pages'],
  ['host', 'keeps its zone or server'],
  ['owner', 'owns it'],
] as const;
const LANGUAGES = [
  ['en', 'English'],
  ['de', 'Deutsch'],
] as const;
const STATES: Readonly<Record<Letter['state'], string>> = {
  sent: 'sent',
  waiting: 'being sent',
  dead: 'not taken by their mail server',
  copied: 'copied',
};

function readAnew(): Promise<unknown> {
  return Promise.all([
    queries.invalidateQueries({ queryKey: ['drafts'] }),
    queries.invalidateQueries({ queryKey: ['letters'] }),
  ]);
}

function NewContact({ property }: { property: Property }) {
  return (
    <FormSheet
      opener="Add a contact"
      title={`A contact of ${property.client.name}`}
      says="They are asked to place tokens, and written to when something is wrong."
      send="Add contact"
      onSend={async ({ name = '', role = 'developer', email, language = 'en', of }) => {
        await api.addContact({
          body: {
            ...(of === 'property' ? { property: property.id } : { client: property.client.id }),
            ...{ name, role: role as 'developer', language: language as 'en' },
            ...(email === undefined || email === '' ? {} : { email }),
          },
        });
        await readAnew();
      }}
    >
      <Field label="Name" name="name" required maxLength={120} />
      <Choice label="What they do" name="role" options={ROLES} />
      <Field
        label="Mail"
        name="email"
        type="email"
        hint="Without an address, you copy letters to them yourself."
      />
      <Choice label="In which language" name="language" options={LANGUAGES} />
      <Choice
        label="For"
        name="of"
        options={[
          ['client', `all of ${property.client.name}`],
          ['property', `${property.handle} alone`],
        ]}
      />
    </FormSheet>
  );
}

/** One letter as it would go out, to be changed before it does. */
function Draft({
  property,
  draft,
  about,
  mayWork,
}: {
  property: Property;
  draft: LetterDraft;
  about: About;
  mayWork: boolean;
}) {
  const [subject, setSubject] = useState(draft.subject);
  const [text, setText] = useState(draft.text);
  const { contact } = draft;
  const isChanged = subject !== draft.subject || text !== draft.text;
  const write = useMutation({
    mutationFn: (way: 'mail' | 'copied') =>
      api.writeLetters({
        body: {
          ...{ property: property.id, contacts: [contact.id], way },
          ...about,
          ...(isChanged ? { subject, text } : {}),
        },
      }),
    onSuccess: ({ items: [letter] }, way) =>
      way === 'copied' && letter
        ? navigator.clipboard.writeText(`${letter.subject}\n\n${letter.text}`).catch(() => undefined)
        : undefined,
    onSettled: readAnew,
  });
  return (
    <details className="mb-2 border border-rule bg-sheet px-3 py-2" open={draft.before === null}>
      <summary className="cursor-pointer">
        <span className="font-semibold">{contact.name}</span>{' '}
        <span className="text-faint">
          ({contact.role}, {contact.email ?? 'no address'})
        </span>{' '}
        {draft.before !== null && (
          <span className="text-harms">
            written to on <When time={draft.before} />, no answer noted
          </span>
        )}
      </summary>
      <form
        className="mt-2"
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          write.mutate(contact.email === null ? 'copied' : 'mail');
        }}
      >
        <Field
          label="Subject"
          value={subject}
          maxLength={200}
          lang={contact.language}
          onChange={(event) => {
            setSubject(event.target.value);
          }}
        />
        <label className="block text-sm font-semibold">
          Letter
          <textarea
            value={text}
            rows={14}
            lang={contact.language}
            maxLength={20_000}
            onChange={(event) => {
              setText(event.target.value);
            }}
            className="mt-1 block w-full rounded-sm border border-faint bg-paper px-2 py-1.5 font-mono text-[13px] font-normal"
          />
        </label>
        <p className="mt-1 text-sm text-faint">
          {isChanged
            ? 'It goes out in these words, without a link to the sheet.'
            : 'A link to the sheet is put in when it goes out.'}
        </p>
        {mayWork && (
          <p className="mt-2 flex flex-wrap items-center gap-3">
            {contact.email !== null && (
              <Button type="submit" look="main" disabled={write.isPending}>
                Send it
              </Button>
            )}
            <Button
              disabled={write.isPending}
              onClick={() => {
                write.mutate('copied');
              }}
            >
              Copy it, I send it myself
            </Button>
            <span role="status" className="text-sm text-faint">
              {write.data?.items[0] && `On record as ${STATES[write.data.items[0].state]}.`}
            </span>
          </p>
        )}
        {write.error && <Notice kind="stops">{sayError(write.error)}</Notice>}
      </form>
    </details>
  );
}

function Written({ letter, mayWork }: { letter: Letter; mayWork: boolean }) {
  return (
    <li className="border-t border-rule py-1.5">
      <When time={letter.at} /> to <span className="font-semibold">{letter.contact}</span> ({letter.role}),{' '}
      {STATES[letter.state]}: {letter.subject}
      <div className="text-faint wrap-anywhere">
        {letter.answeredAt === null ? 'No answer noted. ' : `Answered: ${letter.answer ?? ''}`}
        {letter.answeredAt === null && mayWork && (
          <FormSheet
            opener="Note the answer"
            title={`What ${letter.contact} answered`}
            says="By mail or by word of mouth. Reminders of this letter stop."
            send="Note it"
            onSend={async ({ says = '' }) => {
              await api.answerLetter({ params: { id: letter.id }, body: { says } });
              await readAnew();
            }}
          >
            <Field label="What they said" name="says" required maxLength={2000} />
          </FormSheet>
        )}
      </div>
    </li>
  );
}

/** What letters are only about, as a step or an alert was chosen. */
type About = Pick<LetterInput, 'enrolments' | 'alerts'>;

function useAbout(): { about: About; forget: () => void } {
  const { get, set } = useNarrowing();
  const [enrolments, alerts] = [get('about'), get('alert')];
  return {
    about: {
      ...(enrolments === undefined ? {} : { enrolments: enrolments.split(' ') }),
      ...(alerts === undefined ? {} : { alerts: [alerts] }),
    },
    forget: () => {
      set(enrolments === undefined ? 'alert' : 'about', '');
    },
  };
}

/** What is asked of whom by letter, and what they were written before. */
export function Letters({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const { about, forget } = useAbout();
  const drafts = useQuery({
    queryKey: ['drafts', property.id, about],
    queryFn: () => api.draftLetters({ body: { property: property.id, ...about } }),
    retry: false,
  });
  const letters = useQuery({
    queryKey: ['letters', property.id],
    queryFn: () => api.listLetters({ query: { property: property.id, limit: 10 } }),
  });
  const isNarrowed = about.enrolments !== undefined || about.alerts !== undefined;
  const isSettled = !drafts.isPending;
  const section = useRef<HTMLElement>(null);
  // Whoever comes for a letter about one thing has the sheet above it out of the way.
  useEffect(() => {
    if (isNarrowed && isSettled) section.current?.scrollIntoView();
  }, [isNarrowed, isSettled]);
  const isNone =
    drafts.error instanceof ApiProblem &&
    ['no-contacts', 'nothing-to-ask'].includes(drafts.error.problem.code);
  return (
    <section ref={section} className="mt-8 max-w-3xl" aria-labelledby="letters">
      <h2 id="letters" className="text-lg font-semibold">
        Letters
      </h2>
      <p className="mb-3 text-sm text-faint">
        One to each of the client’s people, with what that one does best.
      </p>
      {mayWork && (
        <p className="mb-3">
          <NewContact property={property} />
        </p>
      )}
      {isNarrowed && (
        <p className="mb-3 flex flex-wrap items-center gap-x-3 text-sm">
          <span>
            Only about {about.enrolments ? about.enrolments.join(', ') : 'the alert that you came from'}.
          </span>
          <Button look="quiet" onClick={forget}>
            About all of it
          </Button>
        </p>
      )}
      {isNone ? (
        <p className="text-sm text-faint">
          {drafts.error instanceof ApiProblem && drafts.error.problem.code === 'no-contacts'
            ? 'There is no contact to write to.'
            : 'There is nothing to ask.'}
        </p>
      ) : (
        <QueryView query={drafts}>
          {({ items }) => (
            <>
              {items.map((draft) => (
                <Draft
                  key={`${draft.contact.id} ${draft.text} ${draft.subject}`}
                  property={property}
                  draft={draft}
                  about={about}
                  mayWork={mayWork}
                />
              ))}
            </>
          )}
        </QueryView>
      )}
      <QueryView query={letters}>
        {({ items }) =>
          items.length === 0 ? null : (
            <ul className="mt-4 text-sm" aria-label="Letters that were written">
              {items.map((letter) => (
                <Written key={letter.id} letter={letter} mayWork={mayWork} />
              ))}
            </ul>
          )
        }
      </QueryView>
    </section>
  );
}
