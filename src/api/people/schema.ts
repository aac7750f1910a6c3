import Joi from 'joi';
import { flag, id, maybe, maybeTime, oneOf, role, text, time } from '../parts/schema.js';
import type { Key, NewKey, Person } from './document.js';

export const person = Joi.object<Person, true>({ id, name: text, role: role.required(), createdAt: time }).id(
  'Person',
);

export const key = Joi.object<Key, true>({
  id,
  kind: oneOf<Key['kind']>(['key', 'session']).required(),
  label: text,
  agent: maybe,
  createdAt: time,
  usedAt: maybeTime,
  expiresAt: maybeTime,
  current: flag,
}).id('Key');

export const newKey = Joi.object<NewKey, true>({
  id,
  label: text,
  createdAt: time,
  expiresAt: maybeTime,
  key: id,
}).id('NewKey');
