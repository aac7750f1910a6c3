import Joi from 'joi';
import { WAYS_OF_WORKING } from '../../core/profile/profile.js';
import { LINK_STATES } from '../../core/record/states.js';
import {
  count,
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
  time,
} from '../parts/schema.js';
import type { Account, Engine, LinkState, WantedFact } from './document.js';

export const worked = oneOf(WAYS_OF_WORKING).required();

export const fact = Joi.object<WantedFact, true>({
  id,
  title: id,
  oneOf: Joi.array().items(Joi.string()).allow(null).required(),
  form: Joi.string().valid('languages').allow(null).required(),
}).id('WantedFact');

export const linkState = Joi.object<LinkState, true>({
  work: id,
  state: oneOf(LINK_STATES).required(),
  says: maybe,
  until: maybeTime,
  since: time,
  at: time,
}).id('LinkState');

export const account = Joi.object<Account, true>({
  id,
  engine: id,
  name: id,
  key: Joi.object<Account['key'], true>({
    from: oneOf<Account['key']['from']>(['environment', 'sealed', 'none', 'not-needed']).required(),
    variable: maybe,
    ready: flag,
  }).required(),
  passedOn: Joi.object<NonNullable<Account['passedOn']>, true>({
    at: time,
    to: Joi.object<NonNullable<Account['passedOn']>['to'], true>({
      ...named,
      name: id,
    }).required(),
  })
    .allow(null)
    .required(),
  enrolments: count,
  links: list(linkState),
  createdAt: time,
  version: count,
}).id('Account');

export const engine = Joi.object<Engine, true>({
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
