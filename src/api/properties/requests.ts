import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { anyway, handleText, page, pageQuery, refParams, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { propertiesRoutes } from './routes.js';
import { rhythmChanges } from '../watch/schema.js';
import { access, factAnswers, newProperty, property } from './schema.js';

/** A day that the calendar has (RFC 3339 full-date). */
const dayText = Joi.string()
  .custom((text: string, helpers) =>
    /^\d{4}-\d\d-\d\d$/u.test(text) && new Date(text).toJSON()?.startsWith(text)
      ? text
      : helpers.error('string.pattern.name', { name: 'a day, such as 2027-03-01' }),
  )
  .messages({ 'string.pattern.name': '{#label} must be {#name}' });

/** What the routes take and answer. */
export const propertiesRequests = {
  listProperties: {
    query: Joi.object<QueryOf<typeof propertiesRoutes.listProperties>, true>({
      ...pageQuery,
      client: refText,
      match: refText,
      archived: Joi.boolean(),
    }),
    answer: page(property),
  },
  addProperty: {
    body: Joi.object<BodyOf<typeof propertiesRoutes.addProperty>, true>({
      client: refText.required(),
      address: Joi.string().allow('').max(4096).required(),
      handle: handleText,
      anyway,
    }),
    answer: newProperty,
  },
  showProperty: { params: refParams('property'), answer: property },
  editProperty: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof propertiesRoutes.editProperty>, true>({
      handle: handleText,
      client: refText,
      facts: factAnswers,
      access: access.min(1),
      nameEnds: dayText.allow(null),
      rhythms: rhythmChanges,
    }).min(1),
    answer: property,
  },
  archiveProperty: {
    params: refParams('property'),
    query: Joi.object<QueryOf<typeof propertiesRoutes.archiveProperty>, true>({ anyway: Joi.boolean() }),
  },
  deleteProperty: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof propertiesRoutes.deleteProperty>, true>({ anyway: Joi.boolean() }),
    ...begun,
  },
  restoreProperty: { params: refParams('property'), answer: property },
} satisfies Record<string, RouteSchemas>;
