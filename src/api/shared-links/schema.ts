import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { SHEET_PLACES } from '../../core/sheet/sheet.js';
import { count, flag, id, list, maybe, maybeTime, oneOf, time } from '../parts/schema.js';
import { SHARED_USES, type MadeLink, type SharedLink, type SharedUse } from './document.js';

const keys = {
  id,
  client: id,
  property: maybe,
  word: maybe,
  language: oneOf(SHEET_LANGUAGES).required(),
  enrolments: Joi.array().items(Joi.string()).allow(null).required(),
  places: Joi.array().items(oneOf(SHEET_PLACES)).allow(null).required(),
  tells: flag,
  createdAt: time,
  by: maybe,
  expiresAt: time,
  state: oneOf(['open', 'expired', 'ended'] as const).required(),
  opened: count,
  openedAt: maybeTime,
  uses: list(Joi.object<SharedUse, true>({ at: time, kind: oneOf(SHARED_USES).required(), says: maybe })),
};

export const sharedLink = Joi.object<SharedLink, true>(keys).id('SharedLink');

export const madeLink = Joi.object<MadeLink, true>({ ...keys, url: id }).id('MadeLink');
