import { useQuery } from '@tanstack/react-query';
import type { Telling } from '../../../api/documents.js';
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

export function Tellings() {
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
