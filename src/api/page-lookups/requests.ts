import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { items, refText } from '../parts/schema.js';
import type { RouteSchemas } from '../route-schemas.js';
import type { PageLookupBody } from './routes.js';
import { ration } from './schema.js';

const pageLookups = Joi.object<PageLookupBody, true>({
  addresses: Joi.array().items(Joi.string().max(2048)).min(1).max(50_000).required(),
  engine: refText,
  spread: Joi.boolean(),
});

/** What the routes take and answer. */
export const pageLookupsRequests = {
  lookUp: { body: pageLookups, ...begun },
  askVisit: { body: pageLookups, ...begun },
  listRations: { answer: items(ration) },
} satisfies Record<string, RouteSchemas>;
