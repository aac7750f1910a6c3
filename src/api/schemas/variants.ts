import Joi from 'joi';
import type * as Doc from '../documents.js';
import { findingKeys } from './checks.js';
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
  text,
  time,
} from './parts.js';

const role = Joi.valid(
  'front-door',
  'answers',
  'leads',
  'elsewhere',
  'framed',
  'closed',
  'dark',
  'broken-certificate',
).required();
const kind = Joi.valid('permanent', 'temporary', 'refresh', 'script');

const variant = Joi.object<Doc.Variant>({
  address: id,
  forPeople: id,
  why: Joi.valid('taken-on', 'usual', 'by-hand', 'redirect', 'canonical', 'sitemap').required(),
  role,
  via: kind.allow(null).required(),
  endsAt: maybe,
  says: id,
  since: time,
  seenAt: time,
  steps: list(Joi.object({ url: id, to: id, kind: kind.required(), status: maybeCount })),
  status: maybeCount,
  failure: maybe,
  dialled: maybe,
  certificate: Joi.object({ issuer: text, names: list(Joi.string()), validUntil: id, daysLeft: count })
    .allow(null)
    .required(),
  hsts: maybe,
  robotsHeader: maybe,
  stayAway: list(Joi.string()),
  canonical: maybe,
  siblings: list(Joi.object({ language: text, url: id })),
  cover: list(Joi.object({ engine: engineRef, enrolment: id, badge: badge.required() })),
  used: flag,
}).id('Variant');

const move = Joi.object<Doc.Move>({
  from: id,
  to: id,
  at: time,
  says: id,
  follows: list(
    Joi.object({
      engine: engineRef,
      kind: Joi.valid('enrol', 'prove', 'submit').required(),
      says: id,
      done: flag,
    }),
  ),
}).id('Move');

export const variants = Joi.object<Doc.Variants>({
  property: Joi.object(named).required(),
  seenAt: maybeTime,
  door: Joi.object({ address: maybe, forPeople: maybe, says: maybe }).required(),
  items: list(variant),
  spellings: list(Joi.object({ kind: id, url: id, outcome: id, says: id })),
  findings: list(Joi.object<Doc.VariantFinding>({ ...findingKeys, since: maybeTime })),
  cover: list(Joi.object({ engine: engineRef, missed: list(Joi.string()), uncovered: list(Joi.string()) })),
  hosts: list(Joi.object({ host: id, forPeople: id, why: id })),
  move: move.allow(null).required(),
  history: list(Joi.object({ address: id, forPeople: id, role, says: id, since: time, until: time })),
  mended: list(Joi.object({ code: id, says: id, since: time, until: time })),
}).id('Variants');

export const variantsInYard = Joi.object<Doc.VariantsInYard>({
  missed: list(Joi.object({ engine: engineRef, address: id })),
  stops: maybe,
}).required();
