import Joi from 'joi';
import { ITEM_STATES, JOB_STATES } from '../../core/record/states.js';
import { publication } from '../publishing/schema.js';
import { check } from '../checks/schema.js';
import { claim } from '../claims/schema.js';
import { met } from '../enrolments/schema.js';
import { count, flag, id, list, maybe, maybeTime, oneOf, time } from '../parts/schema.js';
import { pageAnswer } from '../page-lookups/schema.js';
import { robotsShown } from '../robots/schema.js';
import { foundSitemap } from '../sitemaps/schema.js';
import type { Job, JobResult } from './document.js';

export const result = Joi.object<JobResult, true>({
  says: id,
  stops: flag,
  problem: Joi.object<NonNullable<JobResult['problem']>, true>({ code: id, detail: id }),
  enrolment: Joi.string(),
  check,
  claim,
  sitemap: Joi.string(),
  property: Joi.string(),
  placements: Joi.number().integer(),
  warning: Joi.string(),
  page: pageAnswer,
  found: Joi.array().items(foundSitemap),
  publication,
  robots: robotsShown,
  met: Joi.array().items(met),
}).id('JobResult');

export const job = Joi.object<Job, true>({
  id,
  kind: id,
  state: oneOf(JOB_STATES).required(),
  createdAt: time,
  finishedAt: maybeTime,
  total: count,
  finished: count,
  rests: maybeTime,
  items: list(
    Joi.object<Job['items'][number], true>({
      id,
      subject: id,
      state: oneOf(ITEM_STATES).required(),
      result: result.allow(null).required(),
      dueAt: maybeTime,
      progress: maybe,
    }),
  ),
  next: maybe,
}).id('Job');

/** The answer of a route that begins a job. */
export const begun = { answer: job };
