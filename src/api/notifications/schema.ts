import Joi from 'joi';
import { ACTS } from '../../core/worklist/kinds.js';
import { count, counts, flag, id, list, maybe, maybeTime, oneOf, text, time } from '../parts/schema.js';
import type { Alert, Alerts, Webhook, NewWebhook, SentMessage, Recipient, WholeMessage } from './document.js';

const alertSchema = Joi.object<Alert, true>({
  id,
  kind: id,
  property: maybe,
  client: maybe,
  since: time,
  says: id,
  remedy: text,
  acts: oneOf(ACTS).required(),
  until: maybeTime,
  touches: list(Joi.string()),
  difference: list(Joi.string()),
  openedAt: time,
  endedAt: maybeTime,
  mended: Joi.boolean().allow(null).required(),
  notifiedAt: maybeTime,
}).id('Alert');

export const alertsSchema = Joi.object<Alerts, true>({
  items: list(alertSchema),
  next: Joi.string().allow(null).required(),
  counts,
}).id('Alerts');

export const recipient = Joi.object<Recipient, true>({
  person: id,
  email: maybe,
  zone: id,
  digestAt: id,
  atOnce: flag,
  digest: flag,
  clients: Joi.array().items(Joi.string()).allow(null).required(),
}).id('Recipient');

const webhookKeys = { id, url: id, client: maybe, createdAt: time };
export const webhook = Joi.object<Webhook, true>(webhookKeys).id('Webhook');
export const newWebhook = Joi.object<NewWebhook, true>({ ...webhookKeys, secret: id }).id('NewWebhook');

export const MESSAGE_STATES = ['sent', 'waiting', 'dead'] as const;
const messageKeys = {
  id,
  way: oneOf(['mail', 'hook']).required(),
  to: id,
  subject: id,
  state: oneOf(MESSAGE_STATES).required(),
  createdAt: time,
  at: time,
  tries: count,
  fault: maybe,
};
export const sentMessage = Joi.object<SentMessage, true>(messageKeys).id('SentMessage');
export const wholeMessage = Joi.object<WholeMessage, true>({ ...messageKeys, text }).id('WholeMessage');
