import Joi from 'joi';
import { ACTS, STEP_KINDS } from '../../core/worklist/kinds.js';
import { badge, narrow, oneOf, pageQuery, refText } from '../parts/schema.js';
import type { QueryOf, RouteSchemas } from '../route-schemas.js';
import type { standingRoutes } from './routes.js';
import { verification, worklist, yard } from './schema.js';

/** What the routes take and answer. */
export const standingRequests = {
  yard: {
    query: Joi.object<QueryOf<typeof standingRoutes.yard>, true>({
      ...pageQuery,
      ...narrow,
      badge,
      kind: oneOf(STEP_KINDS),
    }),
    answer: yard,
  },
  worklist: {
    query: Joi.object<QueryOf<typeof standingRoutes.worklist>, true>({
      ...pageQuery,
      ...narrow,
      property: refText,
      badge,
      kind: oneOf(STEP_KINDS),
      acts: oneOf(ACTS),
    }),
    answer: worklist,
  },
  verifyRecords: { answer: verification },
} satisfies Record<string, RouteSchemas>;
