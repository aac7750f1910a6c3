import Joi from 'joi';
import { dayText, items, pageQuery, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { watchRoutes } from './routes.js';
import { pause, watch } from './schema.js';

const pauseOf = { property: refText, client: refText, all: Joi.boolean().valid(true) };

/** What the routes take and answer. */
export const watchRequests = {
  showWatch: {
    query: Joi.object<QueryOf<typeof watchRoutes.showWatch>, true>({
      ...pageQuery,
      property: refText,
      client: refText,
      due: Joi.boolean(),
    }),
    answer: watch,
  },
  pauseWatch: {
    body: Joi.object<BodyOf<typeof watchRoutes.pauseWatch>, true>({
      ...pauseOf,
      why: Joi.string().trim().min(1).max(300).label('the reason'),
      until: dayText.label('the last day of the pause'),
    }).xor('property', 'client', 'all'),
    answer: pause,
  },
  resumeWatch: {
    body: Joi.object<BodyOf<typeof watchRoutes.resumeWatch>, true>(pauseOf).xor('property', 'client', 'all'),
    answer: items(pause),
  },
} satisfies Record<string, RouteSchemas>;
