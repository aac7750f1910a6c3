import Joi from 'joi';
import { SITEMAP_ORDERS } from '../../core/sitemap/list-order.js';
import type { RouteSchemas } from './requests.js';
import * as doc from './documents.js';
import { narrow, pageQuery, refText, refParams } from './parts.js';
import { readingDifference, sitemapDetail } from './sitemaps.js';

const job = { answer: doc.job };
const singlePages = Joi.object({
  addresses: Joi.array().items(Joi.string().max(2048)).min(1).max(50_000).required(),
  engine: refText,
  spread: Joi.boolean(),
});

/** What the routes about sitemaps and single pages take and answer. */
export const sitemapRequests = {
  listSitemaps: {
    query: Joi.object({
      ...pageQuery,
      ...narrow,
      property: refText,
      state: Joi.valid('unread', 'clean', 'flawed', 'unreachable'),
      work: Joi.valid('yes', 'no'),
      order: Joi.valid(...SITEMAP_ORDERS),
      brief: Joi.boolean(),
    }),
    answer: doc.sitemaps,
  },
  addSitemap: {
    body: Joi.object({ property: refText.required(), address: Joi.string().allow('').max(4096).required() }),
    answer: doc.newSitemap,
  },
  showSitemap: { params: refParams('sitemap'), answer: sitemapDetail },
  compareReadings: {
    params: refParams('sitemap'),
    query: Joi.object({ from: refText, to: refText, limit: Joi.number().integer().min(0).max(10_000) }),
    answer: readingDifference,
  },
  lookUp: { body: singlePages, ...job },
  askVisit: { body: singlePages, ...job },
  listRations: { answer: doc.items(doc.ration) },
  findSitemaps: { params: refParams('property'), body: Joi.object({ note: Joi.boolean() }), ...job },
  readSitemaps: {
    body: Joi.object({
      property: refText,
      sitemap: refText,
      all: Joi.boolean(),
      sample: Joi.number().integer().min(0).max(1_000),
      seed: Joi.number().integer().min(0).max(4_294_967_295),
    }).xor('property', 'sitemap', 'all'),
    ...job,
  },
  submitSitemap: {
    body: Joi.object({
      sitemap: refText.required(),
      enrolments: Joi.array().items(refText).min(1).max(50_000),
      anyway: Joi.boolean(),
    }),
    ...job,
  },
  withdrawSitemap: { params: refParams('id'), ...job },
  withdrawSitemaps: {
    body: Joi.object({ submissions: Joi.array().items(refText).min(1).max(10_000).required() }),
    ...job,
  },
} satisfies Record<string, RouteSchemas>;
