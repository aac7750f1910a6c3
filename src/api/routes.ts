import type {
  Access,
  Check,
  Client,
  Enrolment,
  Job,
  JournalEntry,
  Key,
  Method,
  NewKey,
  NewProperty,
  NewSitemap,
  Page,
  Person,
  Property,
  Reach,
  Role,
  Sitemap,
  WorkItem,
  Yard,
} from './documents.js';
import { engineRoutes } from './engine-routes.js';
import { route, type Input } from './route.js';

export type { Input, Route } from './route.js';

export interface PageQuery {
  after?: string;
  limit?: number;
}

interface Which {
  /** `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, a handle for all of a property, or an identifier. */
  enrolments?: string[];
  all?: boolean;
  method?: Method;
}

/** The whole API. Service, client, command line and OpenAPI document are made from this one table. */
export const routes = {
  signIn: route<{ body: { name: string; password: string } }, { person: Person }>({
    method: 'POST',
    path: '/session',
    role: 'anyone',
    status: 200,
    summary: 'Sign in; sets the session cookie',
  }),
  signOut: route<Input, null>({
    method: 'DELETE',
    path: '/session',
    role: 'onlooker',
    status: 204,
    summary: 'Sign out',
  }),
  whoAmI: route<Input, { person: Person; now: string }>({
    method: 'GET',
    path: '/session',
    role: 'onlooker',
    status: 200,
    summary: 'Who is signed in, and the service’s time',
  }),
  health: route<Input, { status: 'up'; version: string }>({
    method: 'GET',
    path: '/health',
    role: 'anyone',
    status: 200,
    summary: 'Whether the service is up',
  }),
  addKey: route<{ body: { label: string } }, NewKey>({
    method: 'POST',
    path: '/keys',
    role: 'onlooker',
    status: 201,
    summary: 'Make a bearer key for the command line or a script',
  }),
  listKeys: route<Input, { items: Key[] }>({
    method: 'GET',
    path: '/keys',
    role: 'onlooker',
    status: 200,
    summary: 'One’s own keys',
  }),
  endKey: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/keys/:id',
    role: 'onlooker',
    status: 204,
    summary: 'End a key of one’s own',
  }),
  listPersons: route<Input, { items: Person[] }>({
    method: 'GET',
    path: '/persons',
    role: 'lead',
    status: 200,
    summary: 'Everybody who may sign in',
  }),
  addPerson: route<{ body: { name: string; role: Role; password: string } }, Person>({
    method: 'POST',
    path: '/persons',
    role: 'lead',
    status: 201,
    summary: 'Add a person',
  }),
  endPerson: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/persons/:id',
    role: 'lead',
    status: 204,
    summary: 'End a person’s access',
  }),

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

  listProperties: route<{ query?: PageQuery & { client?: string; match?: string } }, Page<Property>>({
    method: 'GET',
    path: '/properties',
    role: 'onlooker',
    status: 200,
    summary: 'Properties by handle',
  }),
  addProperty: route<{ body: { client: string; address: string; handle?: string } }, NewProperty>({
    method: 'POST',
    path: '/properties',
    role: 'consultant',
    status: 201,
    summary: 'Take on a property from a pasted address',
  }),
  showProperty: route<{ params: { property: string } }, Property>({
    method: 'GET',
    path: '/properties/:property',
    role: 'onlooker',
    status: 200,
    summary: 'One property, by handle, address or a unique part of either',
  }),
  editProperty: route<
    {
      params: { property: string };
      body: { handle?: string; facts?: Record<string, string>; access?: Access };
    },
    Property
  >({
    method: 'PATCH',
    path: '/properties/:property',
    role: 'consultant',
    status: 200,
    summary: 'Edit a property (takes If-Match)',
  }),
  archiveProperty: route<{ params: { property: string } }, null>({
    method: 'DELETE',
    path: '/properties/:property',
    role: 'consultant',
    status: 204,
    summary: 'Archive a property; its records stay',
  }),
  findFrontDoor: route<{ params: { property: string } }, Job>({
    method: 'POST',
    path: '/properties/:property/front-door',
    role: 'consultant',
    status: 202,
    summary: 'Look where visitors end up',
  }),

  ...engineRoutes,

  listEnrolments: route<{ query: { property: string } }, { items: Enrolment[] }>({
    method: 'GET',
    path: '/enrolments',
    role: 'onlooker',
    status: 200,
    summary: 'The enrolments of a property, with placements',
  }),
  showEnrolment: route<{ params: { enrolment: string } }, Enrolment>({
    method: 'GET',
    path: '/enrolments/:enrolment',
    role: 'onlooker',
    status: 200,
    summary: 'One enrolment',
  }),
  enrol: route<
    {
      body: {
        properties: string[];
        engines?: string[];
        /** In place of engines: all that matter to the client's audience. */
        fitting?: boolean;
        reach?: Reach;
        address?: string;
        /** The account at the engines, by name; the agency's own otherwise. */
        account?: string;
        /** What engines ask at registration; remembered with the property. */
        facts?: Record<string, string>;
      };
    },
    Job
  >({
    method: 'POST',
    path: '/enrolments',
    role: 'consultant',
    status: 202,
    summary: 'Register properties at engines; what is there already stays as it is',
  }),
  getTokens: route<{ body: Which }, Job>({
    method: 'POST',
    path: '/tokens',
    role: 'consultant',
    status: 202,
    summary: 'Get tokens from engines',
  }),
  check: route<{ body: Which }, Job>({
    method: 'POST',
    path: '/checks',
    role: 'consultant',
    status: 202,
    summary: 'Look at placements',
  }),
  listChecks: route<{ params: { enrolment: string }; query?: PageQuery }, Page<Check>>({
    method: 'GET',
    path: '/enrolments/:enrolment/checks',
    role: 'onlooker',
    status: 200,
    summary: 'Earlier checks, newest first',
  }),
  claim: route<{ body: Which & { ready?: boolean; anyway?: boolean } }, Job>({
    method: 'POST',
    path: '/claims',
    role: 'consultant',
    status: 202,
    summary: 'Ask engines to confirm ownership',
  }),

  listSitemaps: route<{ query?: { property?: string } }, { items: Sitemap[] }>({
    method: 'GET',
    path: '/sitemaps',
    role: 'onlooker',
    status: 200,
    summary: 'Sitemaps with readings and submissions',
  }),
  addSitemap: route<{ body: { property: string; address: string } }, NewSitemap>({
    method: 'POST',
    path: '/sitemaps',
    role: 'consultant',
    status: 201,
    summary: 'Note a sitemap of a property',
  }),
  readSitemaps: route<{ body: { property?: string; sitemap?: string; all?: boolean } }, Job>({
    method: 'POST',
    path: '/readings',
    role: 'consultant',
    status: 202,
    summary: 'Read sitemaps, and ask engines for their readings',
  }),
  submitSitemap: route<{ body: { sitemap: string; enrolments?: string[] } }, Job>({
    method: 'POST',
    path: '/submissions',
    role: 'consultant',
    status: 202,
    summary: 'Make a sitemap known to engines',
  }),
  withdrawSitemap: route<{ params: { id: string } }, Job>({
    method: 'DELETE',
    path: '/submissions/:id',
    role: 'consultant',
    status: 202,
    summary: 'Withdraw a submission',
  }),

  yard: route<{ query?: PageQuery & { client?: string; match?: string } }, Yard>({
    method: 'GET',
    path: '/yard',
    role: 'onlooker',
    status: 200,
    summary: 'Where every property stands at every engine',
  }),
  worklist: route<{ query?: { client?: string; property?: string } }, { items: WorkItem[] }>({
    method: 'GET',
    path: '/worklist',
    role: 'onlooker',
    status: 200,
    summary: 'What to do next, worst and oldest harm first',
  }),
  journal: route<{ query?: PageQuery & { property?: string; client?: string } }, Page<JournalEntry>>({
    method: 'GET',
    path: '/journal',
    role: 'onlooker',
    status: 200,
    summary: 'What happened, newest first',
  }),
  showJob: route<{ params: { id: string } }, Job>({
    method: 'GET',
    path: '/jobs/:id',
    role: 'onlooker',
    status: 200,
    summary: 'One job and its pieces',
  }),
  listJobs: route<{ query?: PageQuery }, Page<Job>>({
    method: 'GET',
    path: '/jobs',
    role: 'onlooker',
    status: 200,
    summary: 'Jobs, newest first, without pieces',
  }),
} as const;

export type Routes = typeof routes;
export type RouteName = keyof Routes;
export type InputOf<Name extends RouteName> = NonNullable<Routes[Name]['types']>['in'];
export type OutputOf<Name extends RouteName> = NonNullable<Routes[Name]['types']>['out'];

/** Server-sent events (HTML standard §9.2) beside the table: progress of one job, and "something changed". */
export const JOB_EVENTS = '/jobs/:id/events';
export const CHANGE_EVENTS = '/events';
export const BASE = '/api/v1';
