import Joi from 'joi';
import { ADVICE_RANKS } from '../../core/badge/advice.js';
import { REPLACED_WHYS } from '../../core/record/states.js';
import { checkKeys, marked, seenThere } from '../checks/schema.js';
import { count, engineRef, flag, id, list, maybe, maybeTime, method, oneOf, time } from '../parts/schema.js';
import type { Advice, PastedToken, Placement, TokenOwner, WhatToPut } from './document.js';

export const put = Joi.alternatives(
  Joi.object<Extract<WhatToPut, { kind: 'meta' }>, true>({
    kind: oneOf(['meta']).required(),
    page: id,
    name: id,
    content: id,
    tag: id,
  }),
  Joi.object<Extract<WhatToPut, { kind: 'file' }>, true>({
    kind: oneOf(['file']).required(),
    url: id,
    path: id,
    fileName: id,
    content: id,
    bytes: count,
  }),
  Joi.object<Extract<WhatToPut, { kind: 'dns' }>, true>({
    kind: oneOf(['dns']).required(),
    zone: id,
    recordName: id,
    type: oneOf(['TXT']).required(),
    value: id,
    zoneLine: id,
  }),
).required();

export const placement = Joi.object<Placement, true>({
  method: method.required(),
  token: id,
  issuedAt: time,
  expiresAt: maybeTime,
  place: id,
  put,
  check: Joi.object<NonNullable<Placement['check']>, true>({
    ...checkKeys,
    seenThere: seenThere.allow(null),
    marked: Joi.object<NonNullable<NonNullable<Placement['check']>['marked']>, true>({
      should: marked,
      stands: marked,
    })
      .allow(null)
      .required(),
  })
    .allow(null)
    .required(),
  recordedBy: maybe,
  before: Joi.object<NonNullable<Placement['before']>, true>({
    token: id,
    replacedAt: time,
    why: oneOf(REPLACED_WHYS).required(),
    put,
  })
    .allow(null)
    .required(),
  standsAt: list(
    Joi.object<Placement['standsAt'][number], true>({
      enrolment: id,
      place: id,
      checkedAt: time,
    }),
  ),
  ofAccount: flag,
}).id('Placement');

export const tokenOwner = Joi.object<TokenOwner, true>({
  token: id,
  method: method.required(),
  enrolment: id,
  engine: engineRef,
  property: id,
  client: id,
  replacedAt: maybeTime,
  endedAt: maybeTime,
}).id('TokenOwner');

export const pastedToken = Joi.object<PastedToken, true>({
  enrolment: id,
  method: method.required(),
  token: id,
  news: oneOf<PastedToken['news']>(['first', 'same', 'changed']).required(),
  notes: list(Joi.string()),
}).id('PastedToken');

export const advice = Joi.object<Advice, true>({
  enrolment: Joi.object<Advice['enrolment'], true>({ id, name: id }).required(),
  methods: list(
    Joi.object<Advice['methods'][number], true>({
      method: method.required(),
      rank: oneOf(ADVICE_RANKS).required(),
      why: list(Joi.string()),
      later: id,
    }),
  ),
  asked: method.allow(null).required(),
  unknown: list(oneOf<Advice['unknown'][number]>(['zone', 'files', 'pages'])),
}).id('Advice');
