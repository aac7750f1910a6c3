import Joi from 'joi';
import { ALERT_KINDS } from '../../core/alerts/alert.js';
import {
  clockText,
  items,
  mailText,
  oneOf,
  page,
  pageQuery,
  refParams,
  refText,
  zoneText,
} from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { tellingRoutes } from './routes.js';
import { cases, hook, MESSAGE_STATES, newHook, sentMessage, telling, wholeMessage } from './schema.js';

/** What the routes take and answer. */
export const tellingRequests = {
  listCases: {
    query: Joi.object<QueryOf<typeof tellingRoutes.listCases>, true>({
      ...pageQuery,
      property: refText,
      client: refText,
      kind: oneOf(ALERT_KINDS).label('the kind of case'),
      over: Joi.boolean(),
    }),
    answer: cases,
  },
  listTellings: { answer: items(telling) },
  editTelling: {
    params: refParams('person'),
    body: Joi.object<BodyOf<typeof tellingRoutes.editTelling>, true>({
      email: mailText.allow(null),
      zone: zoneText.label('the time zone'),
      digestAt: clockText.label('the hour of the digest'),
      atOnce: Joi.boolean().label('the answer for “at once”'),
      digest: Joi.boolean().label('the answer for the digest'),
      clients: Joi.array().items(refText).max(500).allow(null).label('the list of clients'),
    }).min(1),
    answer: telling,
  },
  listHooks: { answer: items(hook) },
  addHook: {
    body: Joi.object<BodyOf<typeof tellingRoutes.addHook>, true>({
      url: Joi.string().trim().max(2048).required(),
      client: refText,
    }),
    answer: newHook,
  },
  endHook: { params: refParams('id') },
  listMessages: {
    query: Joi.object<QueryOf<typeof tellingRoutes.listMessages>, true>({
      ...pageQuery,
      state: oneOf(MESSAGE_STATES).label('the state'),
    }),
    answer: page(sentMessage),
  },
  showMessage: { params: refParams('id'), answer: wholeMessage },
  retryMessage: { params: refParams('id'), answer: sentMessage },
} satisfies Record<string, RouteSchemas>;
