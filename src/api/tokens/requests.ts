import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { items, method, refParams, whichEnrolments } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { tokensRoutes } from './routes.js';
import { advice, pastedToken } from './schema.js';

/** What the routes take and answer. */
export const tokensRequests = {
  getTokens: {
    body: Joi.object<BodyOf<typeof tokensRoutes.getTokens>, true>(whichEnrolments).xor('enrolments', 'all'),
    ...begun,
  },
  pasteToken: {
    params: refParams('enrolment'),
    body: Joi.object<BodyOf<typeof tokensRoutes.pasteToken>, true>({
      text: Joi.string().allow('').max(20_000).required(),
      method: method,
    }),
    answer: pastedToken,
  },
  advice: { params: refParams('enrolment'), answer: items(advice) },
} satisfies Record<string, RouteSchemas>;
