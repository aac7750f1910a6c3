import Joi from 'joi';
import { OWNERSHIP_KINDS } from '../../core/badge/ownership.js';
import { claim } from '../claims/schema.js';
import { fact, linkState, worked } from '../engines/schema.js';
import {
  badge,
  engineRef,
  flag,
  id,
  list,
  maybe,
  maybeTime,
  method,
  named,
  oneOf,
  reach,
  step,
  time,
} from '../parts/schema.js';
import { placement } from '../tokens/schema.js';
import type { Ending, Enrolment, EnrolmentLine, Fit, Met } from './document.js';

export const lineKeys = {
  id,
  name: id,
  engine: engineRef,
  byHand: flag,
  reach: reach.required(),
  target: id,
  targetForPeople: id,
  badge: badge.required(),
  badgeSince: time,
  step: step.required(),
};

export const line = Joi.object<EnrolmentLine, true>(lineKeys).id('EnrolmentLine');

export const ending = Joi.object<Ending, true>({ enrolment: id, endedAt: time }).id('Ending');

export const enrolment = Joi.object<Enrolment, true>({
  ...lineKeys,
  property: Joi.object<Enrolment['property'], true>(named).required(),
  account: Joi.object<Enrolment['account'], true>(named).required(),
  ref: id,
  createdAt: time,
  methods: list(method),
  placements: list(placement),
  claim: claim.allow(null).required(),
  ownership: Joi.object<NonNullable<Enrolment['ownership']>, true>({
    kind: oneOf(OWNERSHIP_KINDS).required(),
    at: time,
    method: method.allow(null).required(),
    reason: maybe,
    recordedBy: maybe,
  })
    .allow(null)
    .required(),
  missingSince: maybeTime,
  asOf: time,
  suspended: list(linkState),
}).id('Enrolment');

export const fit = Joi.object<Fit, true>({
  engine: Joi.object<Fit['engine'], true>({ id, title: id, worked }).required(),
  fits: flag,
  why: id,
  enrolled: list(Joi.string()),
  wants: list(fact),
  plan: list(
    Joi.object<Fit['plan'][number], true>({
      reach: reach.required(),
      target: id,
      targetForPeople: id,
      why: id,
      there: maybe,
    }),
  ),
}).id('Fit');

export const met = Joi.object<Met, true>({
  target: id,
  reach: reach.required(),
  ref: id,
  ownership: oneOf<Met['ownership']>(['none', 'held', 'withdrawn']).required(),
  property: Joi.object<NonNullable<Met['property']>, true>(named).allow(null).required(),
  state: oneOf<Met['state']>(['known', 'differs', 'new', 'taken-over', 'no-property', 'missing']).required(),
  says: id,
}).id('Met');
