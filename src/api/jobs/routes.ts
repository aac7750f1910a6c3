import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { Job } from './document.js';

/** Jobs and their pieces. */
export const jobsRoutes = {
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
