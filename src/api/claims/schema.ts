import Joi from 'joi';
import { VERDICTS } from '../../core/record/states.js';
import { id, maybe, maybeTime, method, oneOf, time } from '../parts/schema.js';
import type { Claim } from './document.js';

export const claim = Joi.object<Claim, true>({
  id,
  enrolment: id,
  method: method.required(),
  askedAt: time,
  answeredAt: maybeTime,
  verdict: oneOf(VERDICTS).allow(null).required(),
  reason: maybe,
  recordedBy: maybe,
}).id('Claim');
