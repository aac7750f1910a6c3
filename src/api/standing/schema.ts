import Joi from 'joi';
import { SITEMAP_STATES } from '../../core/sitemap/reading.js';
import { line } from '../enrolments/schema.js';
import {
  badge,
  count,
  counts,
  engineRef,
  flag,
  id,
  list,
  maybe,
  named,
  namedClient,
  oneOf,
  step,
  stepKeys,
  text,
  time,
} from '../parts/schema.js';
import { variantsInYard } from '../variants/schema.js';
import type { Marked, Progress, Verification, WorkEntry, Worklist, Yard, YardRow } from './document.js';

export const progress = Joi.object<Progress, true>({ done: count, total: count, next: maybe }).required();

export const yard = Joi.object<Yard, true>({
  engines: list(
    Joi.object<Yard['engines'][number], true>({
      id,
      title: id,
      from: engineRef.allow(null),
    }),
  ),
  items: list(
    Joi.object<YardRow, true>({
      property: Joi.object<YardRow['property'], true>({
        ...named,
        addressForPeople: id,
        client: namedClient,
      }).required(),
      enrolments: list(line),
      sitemaps: Joi.object<YardRow['sitemaps'], true>({
        total: count,
        state: oneOf([...SITEMAP_STATES, 'none']).required(),
      }).required(),
      variants: variantsInYard,
      fits: list(Joi.string()),
      above: list(Joi.object<YardRow['above'][number], true>({ engine: engineRef, enrolment: id })),
      step: Joi.object<NonNullable<YardRow['step']>, true>({ ...stepKeys, engine: maybe })
        .allow(null)
        .required(),
      progress,
    }).id('YardRow'),
  ),
  counts,
  progress,
  next: maybe,
}).id('Yard');

export const worklist = Joi.object<Worklist, true>({
  items: list(
    Joi.object<WorkEntry, true>({
      property: Joi.object<WorkEntry['property'], true>({
        ...named,
        client: namedClient,
      }).required(),
      properties: count,
      handles: Joi.array().items(Joi.string()),
      engines: list(Joi.object<WorkEntry['engines'][number], true>({ id, title: id })),
      enrolments: list(
        Joi.object<WorkEntry['enrolments'][number], true>({
          id,
          name: id,
          engine: id,
          badge: badge.required(),
          byHand: flag,
        }),
      ),
      step: step.required(),
      person: maybe,
      putOff: Joi.object<NonNullable<WorkEntry['putOff']>, true>({ until: time, why: text, who: maybe })
        .allow(null)
        .required(),
    }).id('WorkEntry'),
  ),
  counts,
  next: maybe,
}).id('Worklist');

export const marked = Joi.object<Marked, true>({ steps: count, properties: count }).id('Marked');

export const verification = Joi.object<Verification, true>({
  properties: count,
  rows: count,
  damage: list(Joi.string()),
  orphans: list(Joi.object<Verification['orphans'][number], true>({ table: id, of: id, rows: count })),
  differing: list(
    Joi.object<Verification['differing'][number], true>({
      property: id,
      table: id,
      row: id,
      kept: maybe,
      derived: maybe,
    }),
  ),
}).id('Verification');
