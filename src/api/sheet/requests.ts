import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { oneOf, refText } from '../parts/schema.js';
import type { QueryOf, RouteSchemas } from '../route-schemas.js';
import type { sheetRoutes } from './routes.js';
import { placementSheet } from './schema.js';

/** What the route takes and answers. */
export const sheetRequests = {
  showSheet: {
    query: Joi.object<QueryOf<typeof sheetRoutes.showSheet>, true>({
      property: refText,
      client: refText,
      language: oneOf(SHEET_LANGUAGES),
      open: Joi.boolean(),
    }).xor('property', 'client'),
    answer: placementSheet,
  },
} satisfies Record<string, RouteSchemas>;
