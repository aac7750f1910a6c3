import Joi from 'joi';
import { page, pageQuery, refText } from '../parts/schema.js';
import type { QueryOf, RouteSchemas } from '../route-schemas.js';
import type { journalRoutes } from './routes.js';
import { journalEntry } from './schema.js';

/** What the routes take and answer. */
export const journalRequests = {
  journal: {
    query: Joi.object<QueryOf<typeof journalRoutes.journal>, true>({
      ...pageQuery,
      property: refText,
      client: refText,
    }),
    answer: page(journalEntry),
  },
} satisfies Record<string, RouteSchemas>;
