import Joi from 'joi';
import { page, pageQuery, refParams } from '../parts/schema.js';
import type { QueryOf, RouteSchemas } from '../route-schemas.js';
import type { jobsRoutes } from './routes.js';
import { job } from './schema.js';

/** What the routes take and answer. */
export const jobsRequests = {
  showJob: {
    params: refParams('id'),
    query: Joi.object<QueryOf<typeof jobsRoutes.showJob>, true>(pageQuery),
    answer: job,
  },
  stopJob: { params: refParams('id'), answer: job },
  resumeJob: { params: refParams('id'), answer: job },
  listJobs: { query: Joi.object<QueryOf<typeof jobsRoutes.listJobs>, true>(pageQuery), answer: page(job) },
} satisfies Record<string, RouteSchemas>;
