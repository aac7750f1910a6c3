import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { items, reach, refParams, refText } from '../parts/schema.js';
import { factAnswers } from '../properties/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { enrolmentsRoutes } from './routes.js';
import { ending, enrolment, fit } from './schema.js';

/** What the routes take and answer. */
export const enrolmentsRequests = {
  fit: { params: refParams('property'), answer: items(fit) },
  adopt: {
    body: Joi.object<BodyOf<typeof enrolmentsRoutes.adopt>, true>({
      engine: refText.required(),
      account: refText,
      take: Joi.boolean(),
    }),
    ...begun,
  },
  listEnrolments: {
    query: Joi.object<QueryOf<typeof enrolmentsRoutes.listEnrolments>, true>({
      property: refText.required(),
    }),
    answer: items(enrolment),
  },
  showEnrolment: { params: refParams('enrolment'), answer: enrolment },
  enrol: {
    body: Joi.object<BodyOf<typeof enrolmentsRoutes.enrol>, true>({
      properties: Joi.array().items(refText).min(1).max(10_000),
      missing: Joi.boolean().valid(true),
      client: refText,
      engines: Joi.array().items(refText).min(1).max(50),
      fitting: Joi.boolean(),
      reach: reach.label('the reach'),
      address: Joi.string().max(4096),
      account: refText,
      facts: factAnswers,
    })
      .xor('engines', 'fitting')
      .xor('properties', 'missing')
      .with('client', 'missing')
      .with('missing', 'engines'),
    ...begun,
  },
  endEnrolment: { params: refParams('enrolment'), ...begun },
  recordEnding: { params: refParams('enrolment'), answer: ending },
} satisfies Record<string, RouteSchemas>;
