import type { Job } from '../jobs/document.js';
import type { Reach } from '../parts/document.js';
import { route } from '../route.js';
import type { Ending, Enrolment, Fit } from './document.js';

/** Enrolments: whether an engine fits, what is there already, registering and ending. */
export const enrolmentsRoutes = {
  fit: route<{ params: { property: string } }, { items: Fit[] }>({
    method: 'GET',
    path: '/properties/:property/fit',
    role: 'onlooker',
    status: 200,
    summary: 'Which engines matter to a property’s audience, and why',
  }),
  adopt: route<{ body: { engine: string; account?: string; take?: boolean } }, Job>({
    method: 'POST',
    path: '/adoptions',
    role: 'consultant',
    status: 202,
    summary: 'Look what is enrolled at an engine already, and take it over where asked',
  }),
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
  endEnrolment: route<{ params: { enrolment: string } }, Job>({
    method: 'DELETE',
    path: '/enrolments/:enrolment',
    role: 'consultant',
    status: 202,
    summary: 'End an enrolment at its engine; its records stay. By hand it has ended once that is recorded',
  }),
  recordEnding: route<{ params: { enrolment: string } }, Ending>({
    method: 'POST',
    path: '/enrolments/:enrolment/ending',
    role: 'consultant',
    status: 200,
    summary: 'Record that an enrolment has ended at a manual engine',
  }),
} as const;
