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
} as const;
