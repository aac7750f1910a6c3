import Joi from 'joi';
import { CLAIMS_BY } from '../../core/record/states.js';
import { count, list, maybe, maybeTime, named, oneOf, text, time } from '../parts/schema.js';
import type { Client } from './document.js';

export const client = Joi.object<Client, true>({
  ...named,
  name: text,
  contact: maybe,
  audience: list(Joi.string()),
  claims: oneOf(CLAIMS_BY).allow(null).required(),
  properties: count,
  progress: Joi.object<Client['progress'], true>({ done: count, total: count }).required(),
  createdAt: time,
  archivedAt: maybeTime,
  deleteOn: maybeTime,
  version: count,
}).id('Client');
