import Joi from 'joi';
import { count, engineRef, id, maybeTime, time } from '../parts/schema.js';
import type { PageAnswer, RationOfAccount } from './document.js';

const spent = Joi.object<RationOfAccount['lookups'], true>({
  used: count,
  ration: count,
  left: count,
}).required();

export const ration = Joi.object<RationOfAccount, true>({
  engine: engineRef,
  account: id,
  lookups: spent,
  visits: spent,
  until: time,
}).id('RationOfAccount');

export const pageAnswer = Joi.object<PageAnswer, true>({
  address: id,
  listed: Joi.boolean().allow(null).required(),
  visitedAt: maybeTime,
  left: count,
  ration: count,
});
