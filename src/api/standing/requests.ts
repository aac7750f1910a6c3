import Joi from 'joi';
import { PUT_OFF } from '../../core/worklist/assignment.js';
import { ACTS, STEP_KINDS } from '../../core/worklist/kinds.js';
import { dayText, badge, narrow, oneOf, pageQuery, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { standingRoutes } from './routes.js';
import { marked, verification, worklist, yard } from './schema.js';

/** By one of these at least steps are meant: never everything at once. */
const MEANT = ['property', 'client', 'kind', 'engines'] as const;
const stepsMeant = {
  property: refText,
  client: refText,
  kind: oneOf(STEP_KINDS).label('the kind of step'),
  engines: Joi.array().items(refText).min(1).max(50),
};

/** What the routes take and answer. */
export const standingRequests = {
  yard: {
    query: Joi.object<QueryOf<typeof standingRoutes.yard>, true>({
      ...pageQuery,
      ...narrow,
      property: refText,
      badge,
      kind: oneOf(STEP_KINDS).label('the kind of step'),
    }),
    answer: yard,
  },
  worklist: {
    query: Joi.object<QueryOf<typeof standingRoutes.worklist>, true>({
      ...pageQuery,
      ...narrow,
      property: refText,
      badge,
      kind: oneOf([...STEP_KINDS, PUT_OFF]).label('the kind of step'),
      acts: oneOf(ACTS).label('who acts'),
      person: refText,
    }),
    answer: worklist,
  },
  putOffSteps: {
    body: Joi.object<BodyOf<typeof standingRoutes.putOffSteps>, true>({
      ...stepsMeant,
      until: dayText.required().label('the day'),
      why: Joi.string().trim().min(1).max(300).label('the reason'),
    }).or(...MEANT),
    answer: marked,
  },
  takeUpSteps: {
    body: Joi.object<BodyOf<typeof standingRoutes.takeUpSteps>, true>(stepsMeant).or(...MEANT),
    answer: marked,
  },
  handSteps: {
    body: Joi.object<BodyOf<typeof standingRoutes.handSteps>, true>({
      ...stepsMeant,
      person: refText.allow(null).required(),
    }).or(...MEANT),
    answer: marked,
  },
  verifyRecords: { answer: verification },
} satisfies Record<string, RouteSchemas>;
