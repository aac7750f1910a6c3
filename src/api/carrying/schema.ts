import Joi from 'joi';
import { CARRY_ACTS, CARRY_WAYS } from '../../core/carry/plan.js';
import { flag, id, list, maybe, maybeTime, oneOf, role, time } from '../parts/schema.js';
import type { Carrying, CarryPlace } from './document.js';

export const carryPlace = Joi.object<CarryPlace, true>({
  id,
  way: oneOf(CARRY_WAYS).required(),
  says: id,
  hasSecret: flag,
  pin: maybe,
  pinnedAt: maybeTime,
  role: role.required(),
  watchMay: flag,
  createdAt: time,
}).id('CarryPlace');

export const carrying = Joi.object<Carrying, true>({
  place: id,
  says: id,
  steps: list(
    Joi.object<Carrying['steps'][number], true>({
      act: oneOf(CARRY_ACTS).required(),
      name: id,
      says: id,
      done: flag,
    }),
  ),
}).id('Carrying');
