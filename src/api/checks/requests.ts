import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { page, pageQuery, refParams, whichEnrolments } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { checksRoutes } from './routes.js';
import { check } from './schema.js';

/** What the routes take and answer. */
export const checksRequests = {
  check: {
    body: Joi.object<BodyOf<typeof checksRoutes.check>, true>(whichEnrolments).xor('enrolments', 'all'),
    ...begun,
  },
  listChecks: {
    params: refParams('enrolment'),
    query: Joi.object<QueryOf<typeof checksRoutes.listChecks>, true>(pageQuery),
    answer: page(check),
  },
} satisfies Record<string, RouteSchemas>;
