import type { Enrolment } from '../enrolments/document.js';
import type { Job } from '../jobs/document.js';
import type { Method, WhichEnrolments } from '../parts/document.js';
import { route } from '../route.js';

/** Claims and verdicts. */
export const claimsRoutes = {
  claim: route<{ body: WhichEnrolments & { client?: string; ready?: boolean; anyway?: boolean } }, Job>({
    method: 'POST',
    path: '/claims',
    role: 'consultant',
    status: 202,
    summary: 'Ask engines to confirm ownership',
  }),
  recordVerdict: route<
    {
      params: { enrolment: string };
      body: {
        verdict: 'confirmed' | 'refused' | 'withdrawn';
        method?: Method;
        reason?: string;
        at?: string;
        anyway?: boolean;
      };
    },
    Enrolment
  >({
    method: 'POST',
    path: '/enrolments/:enrolment/verdicts',
    role: 'consultant',
    status: 201,
    summary: 'Record what a manual engine said of ownership',
  }),
  takeBackVerdict: route<{ params: { enrolment: string } }, Enrolment>({
    method: 'DELETE',
    path: '/enrolments/:enrolment/verdicts/newest',
    role: 'consultant',
    status: 200,
    summary: 'Take back the newest verdict that a person recorded, and what followed from it',
  }),
} as const;
