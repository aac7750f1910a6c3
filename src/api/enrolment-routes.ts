import type {
  Check,
  Enrolment,
  Job,
  Method,
  NewSitemap,
  Page,
  RationOfAccount,
  Reach,
  Sitemap,
} from './documents.js';
import { route, type PageQuery } from './route.js';

interface Which {
  /** `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, a handle for all of a property, or an identifier. */
  enrolments?: string[];
  all?: boolean;
  method?: Method;
}

/** The work at engines: enrolments, tokens, checks, claims, sitemaps. */
export const enrolmentRoutes = {
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
  lookUp: route<{ body: { addresses: string[]; engine?: string } }, Job>({
    method: 'POST',
    path: '/lookups',
    role: 'consultant',
    status: 202,
    summary: 'Ask engines whether they list single pages, within the day’s ration',
  }),
  askVisit: route<{ body: { addresses: string[]; engine?: string } }, Job>({
    method: 'POST',
    path: '/visits',
    role: 'consultant',
    status: 202,
    summary: 'Ask engines to visit single pages, within the day’s ration',
  }),
  listRations: route<object, { items: RationOfAccount[] }>({
    method: 'GET',
    path: '/rations',
    role: 'onlooker',
    status: 200,
    summary: 'What is left of today’s lookups and visits',
  }),
  findSitemaps: route<{ params: { property: string }; body: { note?: boolean } }, Job>({
    method: 'POST',
    path: '/properties/:property/found-sitemaps',
    role: 'consultant',
    status: 202,
    summary: 'Look for the sitemaps of a property, and note the one to submit',
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
} as const;
