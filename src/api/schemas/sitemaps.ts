import Joi from 'joi';
import type * as Doc from '../documents.js';
import { finding } from './checks.js';
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
  sitemapState,
  time,
} from './parts.js';

const sitemapKind = Joi.valid('urlset', 'index', 'rss', 'atom', 'text', null).required();
export const foundSitemap = Joi.object<Doc.FoundSitemap>({
  url: id,
  why: Joi.valid('robots', 'usual', 'feed', 'noted').required(),
  kind: sitemapKind,
  entries: count,
  says: maybe,
  submit: flag,
  noted: flag,
}).id('FoundSitemap');

const lineKeys = {
  id,
  at: time,
  kind: sitemapKind,
  state: sitemapState.required(),
  addresses: count,
  children: count,
  newestLastmod: maybe,
  fingerprint: maybe,
};
const readingLine = Joi.object<Doc.ReadingLine>(lineKeys).required().id('ReadingLine');
const reading = Joi.object<Doc.Reading>({
  ...lineKeys,
  before: maybeCount,
  extensions: Joi.object({ images: count, videos: count, news: count, alternates: count }).required(),
  tried: count,
  findings: list(finding),
}).id('Reading');

const child = Joi.object<Doc.SitemapChild>({
  url: id,
  kind: sitemapKind,
  state: sitemapState.required(),
  addresses: count,
  before: maybeCount,
  newestLastmod: maybe,
  says: maybe,
}).id('SitemapChild');

const submission = Joi.object<Doc.Submission>({
  id,
  enrolment: id,
  enrolmentName: id,
  engine: engineRef,
  byHand: flag,
  sentAs: id,
  submittedAt: time,
  engineReading: Joi.object({
    at: time,
    readAt: maybeTime,
    found: maybeCount,
    listed: maybeCount,
    trouble: maybe,
    recordedBy: maybe,
  })
    .allow(null)
    .required(),
  counts: Joi.object({
    state: Joi.valid('waiting', 'overdue', 'troubled', 'broken', 'equal', 'behind', 'apart').required(),
    dueBy: maybeTime,
    gap: Joi.number().integer().allow(null).required(),
    since: maybeTime,
    why: maybe,
  }).required(),
  tooMany: Joi.object({ why: Joi.valid('index', 'twice').required(), by: id })
    .allow(null)
    .required(),
  findings: list(finding),
}).id('Submission');

const sitemapKeys = {
  id,
  property: Joi.object(named).required(),
  url: id,
  state: sitemapState.required(),
  reading: reading.allow(null).required(),
  submissions: list(submission),
  createdAt: time,
};
export const sitemap = Joi.object<Doc.Sitemap>(sitemapKeys).id('Sitemap');
export const newSitemap = Joi.object<Doc.NewSitemap>({ ...sitemapKeys, note: maybe }).id('NewSitemap');
export const sitemapDetail = Joi.object<Doc.SitemapDetail>({
  ...sitemapKeys,
  children: list(child),
  childrenInAll: count,
  readings: list(Joi.object({ ...lineKeys, kept: flag })),
  engineReadings: list(
    Joi.object({
      submission: id,
      engine: engineRef,
      at: time,
      readAt: maybeTime,
      found: maybeCount,
      listed: maybeCount,
      trouble: maybe,
    }),
  ),
}).id('SitemapDetail');
export const readingDifference = Joi.object<Doc.ReadingDifference>({
  url: id,
  from: readingLine,
  to: readingLine,
  added: count,
  removed: count,
  addedFirst: list(Joi.string()),
  removedFirst: list(Joi.string()),
}).id('ReadingDifference');

const spent = Joi.object({ used: count, ration: count, left: count }).required();
export const ration = Joi.object<Doc.RationOfAccount>({
  engine: engineRef,
  account: id,
  lookups: spent,
  visits: spent,
  until: time,
}).id('RationOfAccount');

export const pageAnswer = Joi.object<Doc.PageAnswer>({
  address: id,
  listed: Joi.boolean().allow(null).required(),
  visitedAt: maybeTime,
  left: count,
  ration: count,
});

export const sitemaps = Joi.object<Doc.Sitemaps>({ items: list(sitemap), next: maybe, counts }).id(
  'Sitemaps',
);
