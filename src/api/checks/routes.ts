import type { Job } from '../jobs/document.js';
import type { Page, WhichEnrolments } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Check } from './document.js';

/** Looks at placements. */
export const checksRoutes = {
  check: route<{ body: WhichEnrolments }, Job>({
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
} as const;
