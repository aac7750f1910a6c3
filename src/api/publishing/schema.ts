import Joi from 'joi';
import { PUBLISH_ACTS, TARGET_PROTOCOLS } from '../../core/publish/plan.js';
import { flag, id, list, maybe, maybeTime, oneOf, role, time } from '../parts/schema.js';
import type { Publication, Target } from './document.js';

export const targetSchema = Joi.object<Target, true>({
  id,
  way: oneOf(TARGET_PROTOCOLS).required(),
  says: id,
  hasSecret: flag,
  pin: maybe,
  pinnedAt: maybeTime,
  role: role.required(),
  watchMay: flag,
  createdAt: time,
}).id('Target');

export const publication = Joi.object<Publication, true>({
  target: id,
  says: id,
  steps: list(
    Joi.object<Publication['steps'][number], true>({
      act: oneOf(PUBLISH_ACTS).required(),
      name: id,
      says: id,
      done: flag,
    }),
  ),
}).id('Publication');
