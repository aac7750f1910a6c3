import { route, type Input } from '../route.js';
import type { Account, Engine } from './document.js';

/** Engines and the accounts with them. */
export const enginesRoutes = {
  listEngines: route<Input, { items: Engine[] }>({
    method: 'GET',
    path: '/engines',
    role: 'onlooker',
    status: 200,
    summary: 'Engines: their rules, accounts, and how the links stand',
  }),
  addEngine: route<{ body: { profile: string; file?: string; replace?: boolean } }, Engine>({
    method: 'POST',
    path: '/engines',
    role: 'lead',
    status: 201,
    summary: 'Add an engine by the text of its profile',
  }),
  listAccounts: route<Input, { items: Account[] }>({
    method: 'GET',
    path: '/accounts',
    role: 'onlooker',
    status: 200,
    summary: 'Accounts at engines',
  }),
  addAccount: route<{ body: { engine: string; name: string; keyFrom?: string; key?: string } }, Account>({
    method: 'POST',
    path: '/accounts',
    role: 'lead',
    status: 201,
    summary: 'Add an account at an engine; its key is kept sealed and never returned',
  }),
  editAccount: route<
    {
      params: { account: string };
      body: { name?: string; keyFrom?: string; key?: string; passedOnTo?: string | null };
    },
    Account
  >({
    method: 'PATCH',
    path: '/accounts/:account',
    role: 'lead',
    status: 200,
    summary: 'Change an account’s name or key, or mark it as passed on to a client (takes If-Match)',
  }),
} as const;
