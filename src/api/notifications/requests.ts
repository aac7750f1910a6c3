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
import type { notificationRoutes } from './routes.js';
import {
  alertsSchema,
  MESSAGE_STATES,
  newWebhook,
  recipient,
  sentMessage,
  webhook,
  wholeMessage,
} from './schema.js';

/** What the routes take and answer. */
export const notificationRequests = {
  listAlerts: {
    query: Joi.object<QueryOf<typeof notificationRoutes.listAlerts>, true>({
      ...pageQuery,
      property: refText,
      client: refText,
      kind: oneOf(ALERT_KINDS).label('the kind of alert'),
      resolved: Joi.boolean(),
    }),
    answer: alertsSchema,
  },
  listRecipients: { answer: items(recipient) },
  editRecipient: {
    params: refParams('person'),
    body: Joi.object<BodyOf<typeof notificationRoutes.editRecipient>, true>({
      email: mailText.allow(null),
      zone: zoneText.label('the time zone'),
      digestAt: clockText.label('the hour of the digest'),
      atOnce: Joi.boolean().label('the answer for “at once”'),
      digest: Joi.boolean().label('the answer for the digest'),
      clients: Joi.array().items(refText).max(500).allow(null).label('the list of clients'),
    }).min(1),
    answer: recipient,
  },
  listWebhooks: { answer: items(webhook) },
  addWebhook: {
    body: Joi.object<BodyOf<typeof notificationRoutes.addWebhook>, true>({
      url: Joi.string().trim().max(2048).required(),
      client: refText,
    }),
    answer: newWebhook,
  },
  endWebhook: { params: refParams('id') },
  listNotifications: {
    query: Joi.object<QueryOf<typeof notificationRoutes.listNotifications>, true>({
      ...pageQuery,
      state: oneOf(MESSAGE_STATES).label('the state'),
    }),
    answer: page(sentMessage),
  },
  showNotification: { params: refParams('id'), answer: wholeMessage },
  retryNotification: { params: refParams('id'), answer: sentMessage },
} satisfies Record<string, RouteSchemas>;
