import { useQuery } from '@tanstack/react-query';
import type { Recipient } from '../../../api/documents.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { Field } from '../../parts/field.js';
import { FormSheet, type Filled } from '../../parts/form-sheet.js';
import { Listed, ListedLine } from '../../parts/listed.js';
import { QueryView } from '../../parts/query-view.js';

const YES_NO = [
  ['yes', 'yes'],
  ['no', 'no'],
] as const;

/** What a person is notified of, in a sentence. */
function notifiedWords({ email, atOnce, digest, digestAt, zone, clients }: Recipient): string {
  if (email === null) return 'gets no mail';
  const how = [
    ...(atOnce ? ['urgent alerts at once'] : []),
    ...(digest ? [`everything else at ${digestAt} (${zone})`] : []),
  ];
  const of =
    clients === null ? '' : `, about ${clients.length === 0 ? 'no client' : clients.join(', ')} only`;
  return how.length === 0
    ? `gets no mail at ${email}`
    : `gets ${how.join(', and ')}, by mail to ${email}${of}`;
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

function EditRecipient({ one }: { one: Recipient }) {
  return (
    <FormSheet
      opener={`Change ${one.person}`}
      title={`What ${one.person} gets by mail`}
      says="By mail: urgent alerts at once, everything else once a day."
      send="Keep it"
      onSend={(filled) => api.editRecipient({ params: { person: one.person }, body: changesOf(filled) })}
    >
      <Field
        label="Mail to"
        name="email"
        type="email"
        defaultValue={one.email ?? ''}
        hint="Leave it empty for no mail."
      />
      <Choice
        label="Urgent alerts at once"
        name="atOnce"
        options={YES_NO}
        value={one.atOnce ? 'yes' : 'no'}
      />
      <Choice
        label="Everything else once a day"
        name="digest"
        options={YES_NO}
        value={one.digest ? 'yes' : 'no'}
      />
      <Field label="At" name="digestAt" type="time" required defaultValue={one.digestAt} />
      <Field
        label="Time zone"
        name="zone"
        required
        defaultValue={one.zone}
        hint="For example Europe/Berlin."
      />
      <Field
        label="Of these clients only"
        name="clients"
        defaultValue={one.clients?.join(', ') ?? ''}
        hint="Their handles, separated by commas; leave it empty for all."
      />
    </FormSheet>
  );
}

export function Recipients() {
  const query = useQuery({ queryKey: ['recipients'], queryFn: () => api.listRecipients() });
  return (
    <QueryView query={query} rows={2}>
      {({ items }) => (
        <Listed title="Who gets what" none="Nobody is here.">
          {items.map((one) => (
            <ListedLine key={one.person} name={one.person} act={<EditRecipient one={one} />}>
              {notifiedWords(one)}
            </ListedLine>
          ))}
        </Listed>
      )}
    </QueryView>
  );
}
