import Joi from 'joi';
import { dayText, page, pageQuery, refText } from '../parts/schema.js';
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
      kind: Joi.string()
        .pattern(/^[a-z-]+(\.[a-z-]+)?$/u, 'a kind of happening, such as claim or claim.confirmed')
        .label('the kind of happening')
        .max(60),
      who: Joi.string().trim().min(1).max(120),
      from: dayText.label('the first day'),
      until: dayText.label('the last day'),
    }),
    answer: page(journalEntry),
  },
} satisfies Record<string, RouteSchemas>;
