import Joi from 'joi';
import type * as Doc from '../documents.js';
import { finding } from './checks.js';
import {
  count,
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

const reading = Joi.object<Doc.Reading>({
  id,
  at: time,
  kind: sitemapKind,
  addresses: count,
  children: count,
  newestLastmod: maybe,
  findings: list(finding),
}).id('Reading');

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
    state: Joi.valid('waiting', 'overdue', 'troubled', 'equal', 'apart').required(),
    dueBy: maybeTime,
    gap: maybeCount,
  }).required(),
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
