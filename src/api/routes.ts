import type {
  Access,
  Badge,
  Client,
  Job,
  JournalEntry,
  NewProperty,
  Page,
  Property,
  Variants,
  NextStep,
  Verification,
  Worklist,
  Yard,
} from './documents.js';
import { engineRoutes } from './engine-routes.js';
import { enrolmentRoutes } from './enrolment-routes.js';
import { sitemapRoutes } from './sitemap-routes.js';
import { peopleRoutes } from './people-routes.js';
import { route, type Input, type Narrow, type PageQuery } from './route.js';

export type { Input, PageQuery, Route } from './route.js';

/** The whole API. Service, client, command line and OpenAPI document are made from this one table. */
export const routes = {
  ...peopleRoutes,

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
  showVariants: route<{ params: { property: string } }, Variants>({
    method: 'GET',
    path: '/properties/:property/variants',
    role: 'onlooker',
    status: 200,
    summary: 'The variants of a property, what covers them, and what was found',
  }),
  lookAtVariants: route<{ body: { properties?: string[]; all?: boolean } }, Job>({
    method: 'POST',
    path: '/variants',
    role: 'consultant',
    status: 202,
    summary: 'Look at the variants of properties',
  }),
  addHost: route<{ params: { property: string }; body: { host: string } }, Job>({
    method: 'POST',
    path: '/properties/:property/hosts',
    role: 'consultant',
    status: 202,
    summary: 'Add a host to a property, and look at its variants',
  }),
  dropHost: route<{ params: { property: string; host: string } }, Job>({
    method: 'DELETE',
    path: '/properties/:property/hosts/:host',
    role: 'consultant',
    status: 202,
    summary: 'Take a host off a property, and look at its variants',
  }),

  ...engineRoutes,

  ...enrolmentRoutes,

  ...sitemapRoutes,

  yard: route<{ query?: PageQuery & Narrow & { badge?: Badge; kind?: string } }, Yard>({
    method: 'GET',
    path: '/yard',
    role: 'onlooker',
    status: 200,
    summary: 'Where every property stands at every engine',
  }),
  worklist: route<
    {
      query?: PageQuery &
        Narrow & { property?: string; badge?: Badge; kind?: string; acts?: NextStep['acts'] };
    },
    Worklist
  >({
    method: 'GET',
    path: '/worklist',
    role: 'onlooker',
    status: 200,
    summary: 'What to do next, worst and oldest harm first',
  }),
  verifyRecords: route<Input, Verification>({
    method: 'GET',
    path: '/records/verification',
    role: 'lead',
    status: 200,
    summary: 'What is kept ready, held against what the facts say',
  }),
  journal: route<{ query?: PageQuery & { property?: string; client?: string } }, Page<JournalEntry>>({
    method: 'GET',
    path: '/journal',
    role: 'onlooker',
    status: 200,
    summary: 'What happened, newest first',
  }),
  showJob: route<{ params: { id: string }; query?: PageQuery }, Job>({
    method: 'GET',
    path: '/jobs/:id',
    role: 'onlooker',
    status: 200,
    summary: 'One job and its pieces, a page of them',
  }),
  stopJob: route<{ params: { id: string } }, Job>({
    method: 'POST',
    path: '/jobs/:id/stop',
    role: 'consultant',
    status: 200,
    summary: 'Stop a job; what is not done stays to be done',
  }),
  resumeJob: route<{ params: { id: string } }, Job>({
    method: 'POST',
    path: '/jobs/:id/resume',
    role: 'consultant',
    status: 200,
    summary: 'Go on with a job that was stopped',
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
