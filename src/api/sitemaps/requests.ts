import Joi from 'joi';
import { SITEMAP_ORDERS } from '../../core/sitemap/list-order.js';
import { begun } from '../jobs/schema.js';
import { dayText, narrow, oneOf, pageQuery, refParams, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { sitemapsRoutes } from './routes.js';
import { newSitemap, readingDifference, sitemap, sitemapDetail, sitemaps, sitemapState } from './schema.js';

/** What the routes take and answer. */
export const sitemapsRequests = {
  listSitemaps: {
    query: Joi.object<QueryOf<typeof sitemapsRoutes.listSitemaps>, true>({
      ...pageQuery,
      ...narrow,
      property: refText,
      state: sitemapState.label('the state'),
      work: oneOf(['yes', 'no']).label('whether there is work'),
      order: oneOf(SITEMAP_ORDERS).label('the order'),
      brief: Joi.boolean(),
    }),
    answer: sitemaps,
  },
  addSitemap: {
    body: Joi.object<BodyOf<typeof sitemapsRoutes.addSitemap>, true>({
      property: refText.required(),
      address: Joi.string().allow('').max(4096).required(),
    }),
    answer: newSitemap,
  },
  showSitemap: { params: refParams('sitemap'), answer: sitemapDetail },
  compareReadings: {
    params: refParams('sitemap'),
    query: Joi.object<QueryOf<typeof sitemapsRoutes.compareReadings>, true>({
      from: refText.label('the earlier reading'),
      to: refText.label('the later reading'),
      limit: Joi.number().integer().min(0).max(10_000),
    }),
    answer: readingDifference,
  },
  findSitemaps: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof sitemapsRoutes.findSitemaps>, true>({ note: Joi.boolean() }),
    ...begun,
  },
  readSitemaps: {
    body: Joi.object<BodyOf<typeof sitemapsRoutes.readSitemaps>, true>({
      property: refText,
      sitemap: refText,
      all: Joi.boolean(),
      sample: Joi.number().integer().min(0).max(1_000).label('the number of pages to try'),
      seed: Joi.number().integer().min(0).max(4_294_967_295).label('the seed'),
    }).xor('property', 'sitemap', 'all'),
    ...begun,
  },
  acceptFall: { params: refParams('sitemap'), ...begun },
  dropSitemap: { params: refParams('sitemap') },
  submitSitemap: {
    body: Joi.object<BodyOf<typeof sitemapsRoutes.submitSitemap>, true>({
      sitemap: refText.required(),
      enrolments: Joi.array().items(refText).min(1).max(50_000),
      anyway: Joi.boolean(),
    }),
    ...begun,
  },
  withdrawSitemap: { params: refParams('id'), ...begun },
  withdrawSitemaps: {
    body: Joi.object<BodyOf<typeof sitemapsRoutes.withdrawSitemaps>, true>({
      submissions: Joi.array().items(refText).min(1).max(10_000).required(),
    }),
    ...begun,
  },
  recordReading: {
    params: refParams('id'),
    body: Joi.object<BodyOf<typeof sitemapsRoutes.recordReading>, true>({
      found: Joi.number().integer().min(0).max(1e9).label('the number found'),
      listed: Joi.number().integer().min(0).max(1e9).label('the number listed'),
      readAt: dayText.label('the day of the reading'),
      trouble: Joi.string().trim().max(500).label('the trouble'),
    }).or('found', 'trouble'),
    answer: sitemap,
  },
} satisfies Record<string, RouteSchemas>;
