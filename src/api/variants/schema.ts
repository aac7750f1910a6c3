import Joi from 'joi';
import { WAYS } from '../../core/variants/follow.js';
import { FOLLOWING_KINDS } from '../../core/variants/move.js';
import { ROLES } from '../../core/variants/roles.js';
import { VARIANT_WHYS } from '../../core/variants/to-try.js';
import { findingKeys } from '../checks/schema.js';
import {
  badge,
  count,
  engineRef,
  flag,
  id,
  list,
  maybe,
  maybeCount,
  maybeTime,
  named,
  oneOf,
  text,
  time,
} from '../parts/schema.js';
import type { Move, Variant, VariantFinding, Variants, VariantsInYard } from './document.js';

const role = oneOf(ROLES).required();

const kind = oneOf(WAYS);

const variant = Joi.object<Variant, true>({
  address: id,
  forPeople: id,
  why: oneOf(VARIANT_WHYS).required(),
  role,
  via: kind.allow(null).required(),
  endsAt: maybe,
  says: id,
  since: time,
  seenAt: time,
  steps: list(
    Joi.object<Variant['steps'][number], true>({
      url: id,
      to: id,
      kind: kind.required(),
      status: maybeCount,
    }),
  ),
  status: maybeCount,
  failure: maybe,
  dialled: maybe,
  certificate: Joi.object<NonNullable<Variant['certificate']>, true>({
    issuer: text,
    names: list(Joi.string()),
    validUntil: id,
    daysLeft: count,
  })
    .allow(null)
    .required(),
  hsts: maybe,
  robotsHeader: maybe,
  stayAway: list(Joi.string()),
  canonical: maybe,
  siblings: list(Joi.object<Variant['siblings'][number], true>({ language: text, url: id })),
  cover: list(
    Joi.object<Variant['cover'][number], true>({
      engine: engineRef,
      enrolment: id,
      badge: badge.required(),
    }),
  ),
  used: flag,
}).id('Variant');

const move = Joi.object<Move, true>({
  from: id,
  to: id,
  at: time,
  says: id,
  follows: list(
    Joi.object<Move['follows'][number], true>({
      engine: engineRef,
      kind: oneOf(FOLLOWING_KINDS).required(),
      says: id,
      done: flag,
    }),
  ),
}).id('Move');

export const variants = Joi.object<Variants, true>({
  property: Joi.object<Variants['property'], true>(named).required(),
  seenAt: maybeTime,
  door: Joi.object<Variants['door'], true>({
    address: maybe,
    forPeople: maybe,
    says: maybe,
  }).required(),
  items: list(variant),
  spellings: list(
    Joi.object<Variants['spellings'][number], true>({
      kind: id,
      url: id,
      outcome: id,
      says: id,
    }),
  ),
  findings: list(Joi.object<VariantFinding, true>({ ...findingKeys, since: maybeTime })),
  cover: list(
    Joi.object<Variants['cover'][number], true>({
      engine: engineRef,
      missed: list(Joi.string()),
      uncovered: list(Joi.string()),
    }),
  ),
  hosts: list(
    Joi.object<Variants['hosts'][number], true>({
      host: id,
      forPeople: id,
      why: id,
    }),
  ),
  move: move.allow(null).required(),
  history: list(
    Joi.object<Variants['history'][number], true>({
      address: id,
      forPeople: id,
      role,
      says: id,
      since: time,
      until: time,
    }),
  ),
  mended: list(
    Joi.object<Variants['mended'][number], true>({
      code: id,
      says: id,
      since: time,
      until: time,
    }),
  ),
}).id('Variants');

export const variantsInYard = Joi.object<VariantsInYard, true>({
  missed: list(
    Joi.object<VariantsInYard['missed'][number], true>({
      engine: engineRef,
      address: id,
    }),
  ),
  stops: maybe,
}).required();
