import Joi from 'joi';
import { VERDICTS } from '../../core/record/states.js';
import { enrolment } from '../enrolments/schema.js';
import { begun } from '../jobs/schema.js';
import { dayText, method, oneOf, refParams, refText, whichEnrolments } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { claimsRoutes } from './routes.js';

/** What the routes take and answer. */
export const claimsRequests = {
  claim: {
    body: Joi.object<BodyOf<typeof claimsRoutes.claim>, true>({
      ...whichEnrolments,
      client: refText,
      ready: Joi.boolean(),
      anyway: Joi.boolean(),
    })
      .or('enrolments', 'all', 'ready', 'client')
      .oxor('enrolments', 'client'),
    ...begun,
  },
  recordVerdict: {
    params: refParams('enrolment'),
    body: Joi.object<BodyOf<typeof claimsRoutes.recordVerdict>, true>({
      verdict: oneOf([...VERDICTS, 'withdrawn'])
        .required()
        .label('the verdict'),
      method: method,
      reason: Joi.string().trim().max(500).label('the reason'),
      at: dayText.label('the day of the verdict'),
      anyway: Joi.boolean(),
    }),
    answer: enrolment,
  },
  takeBackVerdict: { params: refParams('enrolment'), answer: enrolment },
} satisfies Record<string, RouteSchemas>;
