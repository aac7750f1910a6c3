import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { countriesTyped } from '../../api/countries-typed.js';
import { api } from '../api.js';
import { Choice } from '../parts/choice.js';
import { Field } from '../parts/field.js';
import { FormSheet } from '../parts/form-sheet.js';
import { given } from '../../api/given.js';

export function AddClient() {
  return (
    <FormSheet
      opener="Add client"
      title="Add a client"
      says="A customer of the agency. Add its properties next."
      send="Add client"
      onSend={({ name = '', handle, audience, contact }, anyway) =>
        api.addClient({
          body: {
            name,
            ...(anyway ? { anyway } : {}),
            ...given({ handle, contact }),
            ...(audience === undefined ? {} : { audience: countriesTyped(audience) }),
          },
        })
      }
    >
      <Field label="Name" name="name" required />
      <Field label="Handle" name="handle" hint="A short name; made from the name if you leave it empty." />
      <Field label="Contact" name="contact" hint="Who to write to." />
      <Field
        label="Audience"
        name="audience"
        hint="Countries by code or name, for example FI, Estonia; they decide which engines matter. Leave it empty for everyone."
      />
    </FormSheet>
  );
}

export function TakeOnProperty() {
  const go = useNavigate();
  const clients = useQuery({
    queryKey: ['clients'],
    queryFn: () => api.listClients({ query: { limit: 500 } }),
  });
  const items = clients.data?.items ?? [];
  // The only client there is, or the one added last where it has no website yet, is meant; else nobody is guessed.
  const [newest] = [...items].sort((a, b) => b.createdAt.localeCompare(a.createdAt));
  const meant = newest && (items.length === 1 || newest.properties === 0) ? newest.handle : '';
  return (
    <FormSheet
      opener="Take on property"
      title="Take on a property"
      says="Paste its address in any form; it is shown back as the engines will see it."
      send="Take on"
      onSend={async ({ client = '', address = '', handle }, _, anyway) => {
        const body = {
          client,
          address,
          ...given({ handle }),
          anyway,
        };
        const added = await api.addProperty({ body });
        await go(`/properties/${added.handle}`);
      }}
    >
      <Choice
        label="Client"
        name="client"
        required
        value={meant}
        options={[['', 'choose a client'], ...items.map(({ handle, name }) => [handle, name] as const)]}
      />
      <Field
        label="Address"
        name="address"
        required
        hint="For example Saltmarsh-Ferries.example or https://www.saltmarsh-ferries.example/."
      />
      <Field label="Handle" name="handle" hint="A short name; made from the host if you leave it empty." />
    </FormSheet>
  );
}
