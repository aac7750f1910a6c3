import { useMutation, useQuery } from '@tanstack/react-query';
import { useId, useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { api, queries, sayError } from '../api.js';
import { Button } from '../parts/button.js';
import { Field } from '../parts/field.js';
import { Notice } from '../parts/notice.js';
import { Sheet } from '../parts/sheet.js';

function values(event: FormEvent<HTMLFormElement>): Record<string, string> {
  event.preventDefault();
  const entries = [...new FormData(event.currentTarget)].map(
    ([name, value]) => [name, String(value).trim()] as const,
  );
  return Object.fromEntries(entries.filter(([, value]) => value !== ''));
}

export function AddClient() {
  const [open, setOpen] = useState(false);
  const add = useMutation({
    mutationFn: ({ name = '', audience, contact }: Record<string, string>) =>
      api.addClient({
        body: {
          name,
          ...(contact === undefined ? {} : { contact }),
          ...(audience === undefined ? {} : { audience: audience.toUpperCase().split(/[\s,]+/) }),
        },
      }),
    onSuccess: async () => {
      setOpen(false);
      await queries.invalidateQueries();
    },
  });
  return (
    <Sheet
      opener="Add client"
      title="Add a client"
      says="A customer of the agency; its properties come next."
      open={open}
      onOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          add.mutate(values(event));
        }}
      >
        <Field label="Name" name="name" required />
        <Field label="Contact" name="contact" hint="Whom to write to." />
        <Field label="Audience" name="audience" hint="Countries, such as FI EE; empty for everyone." />
        {add.error && <Notice kind="stops">{sayError(add.error)}</Notice>}
        <Button look="main" type="submit" disabled={add.isPending} className="mt-3">
          Add client
        </Button>
      </form>
    </Sheet>
  );
}

export function TakeOnProperty() {
  const [open, setOpen] = useState(false);
  const select = useId();
  const go = useNavigate();
  const clients = useQuery({
    queryKey: ['clients'],
    queryFn: () => api.listClients({ query: { limit: 500 } }),
    enabled: open,
  });
  const add = useMutation({
    mutationFn: ({ client = '', address = '', handle }: Record<string, string>) =>
      api.addProperty({ body: { client, address, ...(handle === undefined ? {} : { handle }) } }),
    onSuccess: async ({ handle }) => {
      setOpen(false);
      await queries.invalidateQueries();
      await go(`/properties/${handle}`);
    },
  });
  return (
    <Sheet
      opener="Take on property"
      title="Take on a property"
      says="Paste its address in any form; it is shown back as the engines will see it."
      open={open}
      onOpen={setOpen}
    >
      <form
        onSubmit={(event) => {
          add.mutate(values(event));
        }}
      >
        <div className="mb-3">
          <label htmlFor={select} className="mb-1 block text-sm font-semibold">
            Client
          </label>
          <select
            id={select}
            name="client"
            required
            className="w-full rounded-sm border border-faint bg-paper px-2 py-1.5"
          >
            {(clients.data?.items ?? []).map(({ id, handle, name }) => (
              <option key={id} value={handle}>
                {name}
              </option>
            ))}
          </select>
        </div>
        <Field
          label="Address"
          name="address"
          required
          hint="Such as Saltmarsh-Ferries.example or https://www.saltmarsh-ferries.example/."
        />
        <Field label="Handle" name="handle" hint="A short name; made from the host where you give none." />
        {add.error && <Notice kind="stops">{sayError(add.error)}</Notice>}
        <Button look="main" type="submit" disabled={add.isPending} className="mt-3">
          Take on
        </Button>
      </form>
    </Sheet>
  );
}
