import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import type { Client, Property } from '../../../api/documents.js';
import { countriesTyped } from '../../../api/countries-typed.js';
import { api } from '../../api.js';
import { Choice } from '../../parts/choice.js';
import { DayField, dayGiven } from '../../parts/day-field.js';
import { Field } from '../../parts/field.js';
import { FormSheet } from '../../parts/form-sheet.js';
import { FactsTold } from './facts.js';
import { ForOwner } from './owner.js';
import { QueryView } from '../../parts/query-view.js';

/** For another handle, or another client. */
function EditProperty({ property, clients }: { property: Property; clients: readonly Client[] }) {
  const go = useNavigate();
  const { id, version, handle, client } = property;
  return (
    <FormSheet
      opener="Edit property"
      title={`Edit ${handle}`}
      says="All its records stay, even under another handle or client."
      send="Keep it"
      onSend={async (filled) => {
        const nameEnds =
          filled['nameEnds'] === undefined ? null : (await dayGiven(filled['nameEnds'])).slice(0, 10);
        const body = {
          ...(filled['handle'] === undefined || filled['handle'] === handle
            ? {}
            : { handle: filled['handle'] }),
          ...(nameEnds === property.nameEnds ? {} : { nameEnds }),
          ...(filled['client'] === client.handle ? {} : { client: filled['client'] ?? client.handle }),
        };
        if (Object.keys(body).length === 0) return;
        const edited = await api.editProperty({ params: { property: id }, body }, { ifMatch: version });
        await go(`/properties/${edited.handle}?tab=about`, { replace: true });
      }}
    >
      <Field label="Handle" name="handle" defaultValue={handle} required />
      <DayField
        label="Name ends"
        name="nameEnds"
        defaultValue={property.nameEnds ?? ''}
        hint="When the domain registration ends, as its owner says. You are reminded a month before."
      />
      <Choice
        label="Client"
        name="client"
        value={client.handle}
        options={clients.map((one) => [one.handle, one.name])}
      />
    </FormSheet>
  );
}

function EditClient({ client }: { client: Client }) {
  return (
    <FormSheet
      opener="Edit client"
      title={`Edit ${client.name}`}
      says="For all of its properties."
      send="Keep it"
      onSend={({ name = '', contact, audience }) =>
        api.editClient(
          {
            params: { client: client.id },
            body: {
              name,
              contact: contact ?? null,
              audience: audience === undefined ? [] : countriesTyped(audience),
            },
          },
          { ifMatch: client.version },
        )
      }
    >
      <Field label="Name" name="name" defaultValue={client.name} required />
      <Field label="Contact" name="contact" defaultValue={client.contact ?? ''} hint="Who to write to." />
      <Field
        label="Audience"
        name="audience"
        defaultValue={client.audience.join(', ')}
        hint="Countries by code or name; they decide which engines matter. Leave it empty for everyone."
      />
    </FormSheet>
  );
}

function Archive({ property, client }: { property: Property; client: Client }) {
  const go = useNavigate();
  return (
    <div className="flex flex-wrap gap-3">
      <FormSheet
        opener="Archive property"
        title={`Archive ${property.handle}`}
        says="Its records stay, and you can restore it. Its handle becomes free."
        send="Archive it"
        onSend={async (_, anyway) => {
          await api.archiveProperty({
            params: { property: property.id },
            ...(anyway ? { query: { anyway } } : {}),
          });
          await go('/archive');
        }}
      >
        <p className="mb-2">It leaves the yard and the next steps at once.</p>
      </FormSheet>
      <FormSheet
        opener="Archive client"
        title={`Archive ${client.name}`}
        says="Its records stay, and you can restore it."
        send="Archive it"
        onSend={async (_, anyway) => {
          await api.archiveClient({
            params: { client: client.id },
            ...(anyway ? { query: { anyway } } : {}),
          });
          await go('/archive');
        }}
      >
        <p className="mb-2">Its properties go with it, where you say so.</p>
      </FormSheet>
    </div>
  );
}

/** What a property is called and whose it is, to be changed, and the way into the archive. */
export function AboutProperty({ property, mayWork }: { property: Property; mayWork: boolean }) {
  const client = useQuery({
    queryKey: ['client', property.client.id],
    queryFn: () => api.showClient({ params: { client: property.client.id } }),
  });
  const clients = useQuery({
    queryKey: ['clients'],
    queryFn: () => api.listClients({ query: { limit: 500 } }),
    enabled: mayWork,
  });
  return (
    <QueryView query={client}>
      {(one) => (
        <div className="grid gap-x-8 gap-y-4 md:grid-cols-2">
          <section aria-label="The property" className="border border-rule bg-sheet p-4">
            <h2 className="text-lg">{property.handle}</h2>
            <p className="mt-1 mb-3 text-sm break-all">{property.addressForPeople}</p>
            <FactsTold property={property} mayWork={mayWork} />
            {mayWork && <EditProperty property={property} clients={clients.data?.items ?? [one]} />}
          </section>
          <section aria-label="Its client" className="border border-rule bg-sheet p-4">
            <h2 className="text-lg">{one.name}</h2>
            <dl className="mt-1 mb-3 grid grid-cols-[6rem_1fr] gap-x-4 text-sm">
              <dt className="text-faint">Contact</dt>
              <dd>{one.contact ?? 'nobody yet'}</dd>
              <dt className="text-faint">Audience</dt>
              <dd>{one.audience.join(', ') || 'everyone'}</dd>
              <dt className="text-faint">Properties</dt>
              <dd>{one.properties}</dd>
            </dl>
            {mayWork && <EditClient client={one} />}
          </section>
          <ForOwner client={property.client} mayWork={mayWork} />
          {mayWork && <Archive property={property} client={one} />}
        </div>
      )}
    </QueryView>
  );
}
