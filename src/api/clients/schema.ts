import Joi from 'joi';
import { count, list, maybe, maybeTime, named, text, time } from '../parts/schema.js';
import type { Client } from './document.js';

export const client = Joi.object<Client, true>({
  ...named,
  name: text,
  contact: maybe,
  audience: list(Joi.string()),
  properties: count,
  progress: Joi.object<Client['progress'], true>({ done: count, total: count }).required(),
  createdAt: time,
  archivedAt: maybeTime,
  deleteOn: maybeTime,
  version: count,
}).id('Client');
