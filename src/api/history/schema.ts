import Joi from 'joi';
import {
  badge,
  engineRef,
  flag,
  id,
  list,
  maybe,
  maybeCount,
  maybeTime,
  named,
  time,
} from '../parts/schema.js';
import type { PropertyHistory } from './document.js';

const interval = { from: time, until: maybeTime };

export const propertyHistory = Joi.object<PropertyHistory, true>({
  property: Joi.object<PropertyHistory['property'], true>(named).required(),
  asOf: time,
  enrolments: list(
    Joi.object<PropertyHistory['enrolments'][number], true>({
      name: id,
      engine: engineRef,
      ended: flag,
      badges: list(
        Joi.object<PropertyHistory['enrolments'][number]['badges'][number], true>({
          ...interval,
          badge: badge.required(),
        }),
      ),
    }),
  ),
  doors: list(
    Joi.object<PropertyHistory['doors'][number], true>({ ...interval, address: id, forPeople: id }),
  ),
  away: list(Joi.object<PropertyHistory['away'][number], true>({ ...interval, says: id })),
  counts: list(
    Joi.object<PropertyHistory['counts'][number], true>({
      ...interval,
      engine: engineRef,
      sitemap: id,
      found: maybeCount,
      listed: maybeCount,
      trouble: maybe,
    }),
  ),
}).id('PropertyHistory');
