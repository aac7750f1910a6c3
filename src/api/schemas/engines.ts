import Joi from 'joi';
import type * as Doc from '../documents.js';
import { count, engineRef, flag, id, list, maybe, maybeTime, method, named, reach, time } from './parts.js';

const worked = Joi.valid('link', 'hand', 'house', 'borrowed').required();
const fact = Joi.object<Doc.WantedFact>({
  id,
  title: id,
  oneOf: Joi.array().items(Joi.string()).allow(null).required(),
}).id('WantedFact');

export const linkState = Joi.object<Doc.LinkState>({
  work: id,
  state: Joi.valid('answers', 'waits', 'unreached').required(),
  says: maybe,
  until: maybeTime,
  since: time,
  at: time,
}).id('LinkState');

export const account = Joi.object<Doc.Account>({
  id,
  engine: id,
  name: id,
  key: Joi.object({
    from: Joi.valid('environment', 'sealed', 'none', 'not-needed').required(),
    variable: maybe,
    ready: flag,
  }).required(),
  passedOn: Joi.object({ at: time, to: Joi.object({ ...named, name: id }).required() })
    .allow(null)
    .required(),
  enrolments: count,
  links: list(linkState),
  createdAt: time,
  version: count,
}).id('Account');

export const engine = Joi.object<Doc.Engine>({
  id,
  title: id,
  audience: Joi.alternatives(Joi.valid('everyone'), Joi.array().items(Joi.string())).required(),
  share: Joi.object().pattern(Joi.string(), Joi.number()).required(),
  worked,
  from: engineRef.allow(null),
  reaches: list(reach),
  methods: list(method),
  facts: list(fact),
  takesSitemaps: flag,
  rules: list(Joi.string()),
  accounts: list(account),
}).id('Engine');

export const fit = Joi.object<Doc.Fit>({
  engine: Joi.object({ id, title: id, worked }).required(),
  fits: flag,
  why: id,
  enrolled: list(Joi.string()),
  wants: list(fact),
  plan: list(Joi.object({ reach: reach.required(), target: id, targetForPeople: id, why: id, there: maybe })),
}).id('Fit');

export const met = Joi.object<Doc.Met>({
  target: id,
  reach: reach.required(),
  ref: id,
  ownership: Joi.valid('none', 'held', 'withdrawn').required(),
  property: Joi.object(named).allow(null).required(),
  state: Joi.valid('known', 'differs', 'new', 'taken-over', 'no-property', 'missing').required(),
  says: id,
}).id('Met');

export const pastedToken = Joi.object<Doc.PastedToken>({
  enrolment: id,
  method: method.required(),
  token: id,
  news: Joi.valid('first', 'same', 'changed').required(),
  notes: list(Joi.string()),
}).id('PastedToken');

export const advice = Joi.object<Doc.Advice>({
  enrolment: Joi.object({ id, name: id }).required(),
  methods: list(
    Joi.object({
      method: method.required(),
      rank: Joi.valid('best', 'works', 'cannot').required(),
      why: list(Joi.string()),
      later: id,
    }),
  ),
  unknown: list(Joi.valid('zone', 'files', 'pages')),
}).id('Advice');
