import Joi from 'joi';
import { SITEMAP_FORMATS } from '../../core/profile/profile.js';
import { TOO_MANY_WHYS } from '../../core/sitemap/at-engine.js';
import { COUNT_STATES } from '../../core/sitemap/comparison.js';
import { CANDIDATE_WHYS } from '../../core/sitemap/candidates.js';
import { SITEMAP_STATES } from '../../core/sitemap/reading.js';
import { finding } from '../checks/schema.js';
import {
  count,
  counts,
  engineRef,
  flag,
  id,
  list,
  maybe,
  maybeCount,
  maybeTime,
  named,
  oneOf,
  time,
} from '../parts/schema.js';
import type {
  FoundSitemap,
  NewSitemap,
  Reading,
  ReadingDifference,
  ReadingLine,
  Sitemap,
  SitemapChild,
  SitemapDetail,
  Sitemaps,
  Submission,
} from './document.js';

export const sitemapState = oneOf(SITEMAP_STATES);

const sitemapKind = oneOf(SITEMAP_FORMATS).allow(null).required();

export const foundSitemap = Joi.object<FoundSitemap, true>({
  url: id,
  why: oneOf(CANDIDATE_WHYS).required(),
  kind: sitemapKind,
  entries: count,
  says: maybe,
  submit: flag,
  noted: flag,
}).id('FoundSitemap');

export const lineKeys = {
  id,
  at: time,
  firstAt: time,
  times: count,
  kind: sitemapKind,
  state: sitemapState.required(),
  addresses: count,
  children: count,
  newestLastmod: maybe,
  fingerprint: maybe,
};

export const readingLine = Joi.object<ReadingLine, true>(lineKeys).required().id('ReadingLine');

const reading = Joi.object<Reading, true>({
  ...lineKeys,
  before: maybeCount,
  extensions: Joi.object<Reading['extensions'], true>({
    images: count,
    videos: count,
    news: count,
    alternates: count,
  }).required(),
  tried: count,
  findings: list(finding),
}).id('Reading');

const child = Joi.object<SitemapChild, true>({
  url: id,
  kind: sitemapKind,
  state: sitemapState.required(),
  addresses: count,
  before: maybeCount,
  newestLastmod: maybe,
  says: maybe,
}).id('SitemapChild');

const submission = Joi.object<Submission, true>({
  id,
  enrolment: id,
  enrolmentName: id,
  engine: engineRef,
  byHand: flag,
  sentAs: id,
  sentAsForPeople: id,
  submittedAt: time,
  askedAt: maybeTime,
  engineReading: Joi.object<NonNullable<Submission['engineReading']>, true>({
    at: time,
    readAt: maybeTime,
    found: maybeCount,
    listed: maybeCount,
    trouble: maybe,
    recordedBy: maybe,
  })
    .allow(null)
    .required(),
  counts: Joi.object<Submission['counts'], true>({
    state: oneOf(COUNT_STATES).required(),
    dueBy: maybeTime,
    gap: Joi.number().integer().allow(null).required(),
    since: maybeTime,
    why: maybe,
  }).required(),
  tooMany: Joi.object<NonNullable<Submission['tooMany']>, true>({
    why: oneOf(TOO_MANY_WHYS).required(),
    by: id,
  })
    .allow(null)
    .required(),
  findings: list(finding),
}).id('Submission');

const sitemapKeys = {
  id,
  property: Joi.object<Sitemap['property'], true>(named).required(),
  url: id,
  urlForPeople: id,
  state: sitemapState.required(),
  reading: reading.allow(null).required(),
  submissions: list(submission),
  withdrawn: flag,
  createdAt: time,
};

export const sitemap = Joi.object<Sitemap, true>(sitemapKeys).id('Sitemap');

export const newSitemap = Joi.object<NewSitemap, true>({ ...sitemapKeys, note: maybe, isNew: flag }).id(
  'NewSitemap',
);

export const sitemapDetail = Joi.object<SitemapDetail, true>({
  ...sitemapKeys,
  children: list(child),
  childrenInAll: count,
  readings: list(
    Joi.object<SitemapDetail['readings'][number], true>({
      ...lineKeys,
      kept: flag,
    }),
  ),
  engineReadings: list(
    Joi.object<SitemapDetail['engineReadings'][number], true>({
      submission: id,
      engine: engineRef,
      at: time,
      firstAt: time,
      times: count,
      readAt: maybeTime,
      found: maybeCount,
      listed: maybeCount,
      trouble: maybe,
    }),
  ),
}).id('SitemapDetail');

export const readingDifference = Joi.object<ReadingDifference, true>({
  url: id,
  from: readingLine,
  to: readingLine,
  added: count,
  removed: count,
  addedFirst: list(Joi.string()),
  removedFirst: list(Joi.string()),
}).id('ReadingDifference');

export const sitemaps = Joi.object<Sitemaps, true>({ items: list(sitemap), next: maybe, counts }).id(
  'Sitemaps',
);
