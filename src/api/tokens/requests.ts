import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { anyway, items, method, refParams, refText, whichEnrolments } from '../parts/schema.js';
import type { BodyOf, ParamsOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { tokensRoutes } from './routes.js';
import { advice, pastedToken, tokenOwner } from './schema.js';

/** What the routes take and answer. */
export const tokensRequests = {
  getTokens: {
    body: Joi.object<BodyOf<typeof tokensRoutes.getTokens>, true>(whichEnrolments).xor('enrolments', 'all'),
    ...begun,
  },
  pasteToken: {
    params: refParams('enrolment'),
    body: Joi.object<BodyOf<typeof tokensRoutes.pasteToken>, true>({
      text: Joi.string().allow('').max(20_000).required().label('what was pasted'),
      method: method,
      anyway,
    }),
    answer: items(pastedToken),
  },
  forgetToken: {
    params: Joi.object<ParamsOf<typeof tokensRoutes.forgetToken>, true>({
      enrolment: refText.required(),
      method: method.required(),
    }),
  },
  askMethod: {
    params: refParams('enrolment'),
    body: Joi.object<BodyOf<typeof tokensRoutes.askMethod>, true>({ method: method.required() }),
  },
  whoseToken: {
    query: Joi.object<QueryOf<typeof tokensRoutes.whoseToken>, true>({
      text: Joi.string().trim().min(1).max(4_000).required().label('the token or what was pasted'),
    }),
    answer: items(tokenOwner),
  },
  advice: { params: refParams('enrolment'), answer: items(advice) },
} satisfies Record<string, RouteSchemas>;
