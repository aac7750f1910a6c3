import type { Check, Enrolment, Job, Method, Page, Reach } from './documents.js';
import { route, type PageQuery } from './route.js';

interface Which {
  /** `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, a handle for all of a property, or an identifier. */
  enrolments?: string[];
  all?: boolean;
  method?: Method;
}

/** The work at engines: enrolments, tokens, checks, claims. */
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
        properties?: string[];
        /** In place of properties: all that should be enrolled with the engines and are not, of a client where one is named. */
        missing?: true;
        client?: string;
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
} as const;
