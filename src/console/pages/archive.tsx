import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import type { Client, Person, Property } from '../../api/documents.js';
import { plainHandle } from '../../api/formats.js';
import { api } from '../api.js';
import { FormSheet } from '../parts/form-sheet.js';
import { Notice } from '../parts/notice.js';
import { QueryView } from '../parts/query-view.js';
import { When } from '../parts/when.js';

function RestoreProperty({ property }: { property: Property }) {
  const go = useNavigate();
  const handle = plainHandle(property.handle);
  return (
    <FormSheet
      opener={`Restore ${handle}`}
      title={`Restore ${handle}`}
      says="It comes back into the yard with all its records."
      send="Restore it"
      onSend={async () => {
        const restored = await api.restoreProperty({ params: { property: property.id } });
        await go(`/properties/${restored.handle}`);
      }}
    >
      <p className="mb-2">Check it afterwards: it was not checked while it was archived.</p>
    </FormSheet>
  );
}

function RestoreClient({ client }: { client: Client }) {
  const handle = plainHandle(client.handle);
  return (
    <FormSheet
      opener={`Restore ${client.name}`}
      title={`Restore ${client.name}`}
      says={`It comes back as ${handle}; its properties are restored one by one.`}
      send="Restore it"
      onSend={() => api.restoreClient({ params: { client: client.id } })}
    >
      <p className="mb-2">Its properties wait below.</p>
    </FormSheet>
  );
}

/** What there is of a client for good: a lead's to say, on the day that was named or at a word. */
function DeleteClient({ client }: { client: Client }) {
  return (
    <FormSheet
      opener={`Delete ${client.name}`}
      look="quiet"
      title={`Delete ${client.name} for good`}
      says="All records of the client and its properties are deleted and cannot be brought back. The journal keeps its lines."
      send="Delete it"
      onSend={(_, anyway) =>
        api.deleteClient({ params: { client: client.id }, body: anyway ? { anyway } : {} })
      }
    >
      <p className="mb-2">
        {client.deleteOn === null
          ? 'No day was named on which that may be done.'
          : `Its hand-over said that its records are kept until ${client.deleteOn.slice(0, 10)}.`}
      </p>
    </FormSheet>
  );
}

/** What was put away, the newest first, each with the way back. */
export function ArchivePage({ person }: { person: Person }) {
  const mayWork = person.role !== 'onlooker';
  const clients = useQuery({
    queryKey: ['clients', 'archived'],
    queryFn: () => api.listClients({ query: { archived: true, limit: 500 } }),
  });
  const properties = useQuery({
    queryKey: ['properties', 'archived'],
    queryFn: () => api.listProperties({ query: { archived: true, limit: 500 } }),
  });
  return (
    <>
      <h1 className="mb-3 text-2xl">The archive</h1>
      <QueryView query={clients}>
        {({ items }) =>
          items.length === 0 ? null : (
            <section aria-label="Clients" className="mb-4">
              <h2 className="mb-1 text-lg">Clients</h2>
              <ul className="border-b border-rule bg-sheet">
                {items.map((one) => (
                  <li
                    key={one.id}
                    className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule px-3 py-2"
                  >
                    <span className="mr-auto">
                      <span className="font-semibold">{one.name}</span>{' '}
                      <span className="text-sm text-faint">
                        {plainHandle(one.handle)}, archived <When time={one.archivedAt} />
                        {one.deleteOn !== null && `, records kept until ${one.deleteOn.slice(0, 10)}`}
                      </span>
                    </span>
                    {mayWork && <RestoreClient client={one} />}
                    {person.role === 'lead' && <DeleteClient client={one} />}
                  </li>
                ))}
              </ul>
            </section>
          )
        }
      </QueryView>
      <QueryView query={properties}>
        {({ items }) =>
          items.length === 0 ? (
            <Notice kind="note">
              No property is in the archive. What is archived, from a property’s page, is kept here with all
              that is on record of it.
            </Notice>
          ) : (
            <section aria-label="Properties">
              <h2 className="mb-1 text-lg">Properties</h2>
              <ul className="border-b border-rule bg-sheet">
                {items.map((one) => (
                  <li
                    key={one.id}
                    className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule px-3 py-2"
                  >
                    <span className="mr-auto">
                      <span className="font-semibold">{plainHandle(one.handle)}</span>{' '}
                      <span className="text-sm text-faint">
                        {one.client.name}, {one.addressForPeople}, archived <When time={one.archivedAt} />
                      </span>
                    </span>
                    {mayWork && <RestoreProperty property={one} />}
                  </li>
                ))}
              </ul>
            </section>
          )
        }
      </QueryView>
    </>
  );
}
