import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Client } from './document.js';

/** Clients. */
export const clientsRoutes = {
  listClients: route<{ query?: PageQuery }, Page<Client>>({
    method: 'GET',
    path: '/clients',
    role: 'onlooker',
    status: 200,
    summary: 'Clients by handle',
  }),
  addClient: route<
    { body: { name: string; handle?: string; contact?: string; audience?: string[] } },
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
    { params: { client: string }; body: { name?: string; contact?: string | null; audience?: string[] } },
    Client
  >({
    method: 'PATCH',
    path: '/clients/:client',
    role: 'consultant',
    status: 200,
    summary: 'Edit a client (takes If-Match)',
  }),
} as const;
