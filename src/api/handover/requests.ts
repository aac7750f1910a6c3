import Joi from 'joi';
import { job } from '../jobs/schema.js';
import { dayText, refParams } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { handoverRoutes } from './routes.js';
import { handover } from './schema.js';

/** What the routes take and answer. */
export const handoverRequests = {
  showHandover: { params: refParams('client'), answer: handover },
  askHolders: { params: refParams('client'), answer: job },
  noteHolders: {
    params: refParams('enrolment'),
    body: Joi.object<BodyOf<typeof handoverRoutes.noteHolders>, true>({
      says: Joi.string().trim().min(1).max(1_000).required().label('the text'),
    }),
  },
  beginHandover: { params: refParams('client'), answer: handover },
  tickHandover: {
    params: refParams('client'),
    body: Joi.object<BodyOf<typeof handoverRoutes.tickHandover>, true>({
      item: Joi.string().max(300).required(),
      note: Joi.string().trim().min(1).max(500),
      undo: Joi.boolean(),
    }),
    answer: handover,
  },
  callOffHandover: { params: refParams('client'), answer: handover },
  endHandover: {
    params: refParams('client'),
    body: Joi.object<BodyOf<typeof handoverRoutes.endHandover>, true>({
      deleteOn: dayText,
      anyway: Joi.boolean(),
    }),
    answer: handover,
  },
  deleteClient: {
    params: refParams('client'),
    body: Joi.object<BodyOf<typeof handoverRoutes.deleteClient>, true>({ anyway: Joi.boolean() }),
    answer: job,
  },
} satisfies Record<string, RouteSchemas>;
