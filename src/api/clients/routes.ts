import type { ClaimsBy } from '../../core/record/states.js';
import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Client } from './document.js';

/** Clients. */
export const clientsRoutes = {
  listClients: route<{ query?: PageQuery & { archived?: boolean; without?: 'property' } }, Page<Client>>({
    method: 'GET',
    path: '/clients',
    role: 'onlooker',
    status: 200,
    summary: 'Clients by handle; “without” property: those that have none yet',
  }),
  addClient: route<
    { body: { name: string; handle?: string; contact?: string; audience?: string[]; anyway?: boolean } },
    Client
  >({
    method: 'POST',
    path: '/clients',
    role: 'consultant',
    status: 201,
    summary: 'Add a client',
  }),
  showClient: route<{ params: { client: string } }, Client>({
    method: 'GET',
    path: '/clients/:client',
    role: 'onlooker',
    status: 200,
    summary: 'One client',
  }),
  editClient: route<
    {
      params: { client: string };
      body: {
        handle?: string;
        name?: string;
        contact?: string | null;
        audience?: string[];
        claims?: ClaimsBy | null;
      };
    },
    Client
  >({
    method: 'PATCH',
    path: '/clients/:client',
    role: 'consultant',
    status: 200,
    summary: 'Edit a client (takes If-Match)',
  }),
  archiveClient: route<{ params: { client: string }; query?: { anyway?: boolean } }, null>({
    method: 'DELETE',
    path: '/clients/:client',
    role: 'consultant',
    status: 204,
    summary: 'Archive a client; its records stay. With “anyway” its properties too',
  }),
  restoreClient: route<{ params: { client: string } }, Client>({
    method: 'POST',
    path: '/clients/:client/restored',
    role: 'consultant',
    status: 200,
    summary: 'Take a client back out of the archive',
  }),
} as const;
