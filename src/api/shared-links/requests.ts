import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { SHEET_PLACES } from '../../core/sheet/sheet.js';
import { oneOf, page, pageQuery, refParams, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { sharedRoutes } from './routes.js';
import { madeLink, sharedLink } from './schema.js';

/** What the routes take and answer. */
export const sharedRequests = {
  addLink: {
    body: Joi.object<BodyOf<typeof sharedRoutes.addLink>, true>({
      property: refText,
      client: refText,
      word: Joi.string().trim().min(1).max(80),
      language: oneOf(SHEET_LANGUAGES),
      enrolments: Joi.array().items(refText).min(1).max(500),
      places: Joi.array().items(oneOf(SHEET_PLACES)).min(1),
      lasts: Joi.string().max(20),
      tells: Joi.boolean(),
    }).xor('property', 'client'),
    answer: madeLink,
  },
  listLinks: {
    query: Joi.object<QueryOf<typeof sharedRoutes.listLinks>, true>({
      ...pageQuery,
      property: refText,
      client: refText,
      all: Joi.boolean(),
    }),
    answer: page(sharedLink),
  },
  endLink: { params: refParams('id') },
} satisfies Record<string, RouteSchemas>;
