import type {
  Account,
  Advice,
  Engine,
  Enrolment,
  Fit,
  Job,
  Method,
  PastedToken,
  Sitemap,
} from './documents.js';
import { route, type Input } from './route.js';

/** What is asked about engines and accounts, and what is carried to and from engines by hand. */
export const engineRoutes = {
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
  adopt: route<{ body: { engine: string; account?: string; take?: boolean } }, Job>({
    method: 'POST',
    path: '/adoptions',
    role: 'consultant',
    status: 202,
    summary: 'Look what is enrolled at an engine already, and take it over where asked',
  }),
  fit: route<{ params: { property: string } }, { items: Fit[] }>({
    method: 'GET',
    path: '/properties/:property/fit',
    role: 'onlooker',
    status: 200,
    summary: 'Which engines matter to a property’s audience, and why',
  }),
  advice: route<{ params: { enrolment: string } }, { items: Advice[] }>({
    method: 'GET',
    path: '/enrolments/:enrolment/advice',
    role: 'onlooker',
    status: 200,
    summary: 'Which method to have placed, why, and what each costs later',
  }),
  endEnrolment: route<{ params: { enrolment: string } }, Job>({
    method: 'DELETE',
    path: '/enrolments/:enrolment',
    role: 'consultant',
    status: 202,
    summary: 'End an enrolment at its engine; its records stay',
  }),
  pasteToken: route<{ params: { enrolment: string }; body: { text: string; method?: Method } }, PastedToken>({
    method: 'POST',
    path: '/enrolments/:enrolment/pasted',
    role: 'consultant',
    status: 201,
    summary: 'Read method and token out of what an engine showed',
  }),
  recordVerdict: route<
    {
      params: { enrolment: string };
      body: {
        verdict: 'confirmed' | 'refused' | 'withdrawn';
        method?: Method;
        reason?: string;
        at?: string;
      };
    },
    Enrolment
  >({
    method: 'POST',
    path: '/enrolments/:enrolment/verdicts',
    role: 'consultant',
    status: 201,
    summary: 'Record what an engine worked by hand said of ownership',
  }),
  recordReading: route<
    {
      params: { id: string };
      body: { found?: number; listed?: number; readAt?: string; trouble?: string };
    },
    Sitemap
  >({
    method: 'POST',
    path: '/submissions/:id/readings',
    role: 'consultant',
    status: 201,
    summary: 'Record what an engine worked by hand says of a sitemap',
  }),
} as const;
