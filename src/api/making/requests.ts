import Joi from 'joi';
import {
  DATE_SOURCES,
  MADE_EXTENSIONS,
  MOST_AT_ONCE,
  PAGE_KINDS,
  SOURCES,
} from '../../core/sitemap/make/recipe.js';
import { begun } from '../jobs/schema.js';
import { page, refParams, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { RecipeEdit } from './edit.js';
import type { makingRoutes } from './routes.js';
import { handOut, madePage, madeVersion, making, pageState, weighing, whyText } from './schema.js';

const patterns = Joi.array()
  .items(Joi.string().pattern(/^[/*]/u, 'a path pattern that begins with / or *, such as /news/*').max(500))
  .max(200);
const addresses = (most: number) => Joi.array().items(Joi.string().trim().min(1).max(2_047)).max(most);
const words = <Word extends string>(all: readonly Word[]) =>
  Joi.array()
    .items(Joi.string().valid(...all))
    .unique();

/** Weeks, days, hours and minutes of ISO 8601 durations. */
const DURATION = /^P(?!$)(?:\d{1,4}W)?(?:\d{1,4}D)?(?:T(?=\d)(?:\d{1,4}H)?(?:\d{1,6}M)?)?$/u;

const edit = Joi.object<RecipeEdit, true>({
  sources: words(SOURCES).min(1),
  list: addresses(50_000),
  feeds: addresses(20),
  sitemaps: addresses(20),
  pages: Joi.number().integer().min(1).max(1_000_000).label('the number of pages'),
  depth: Joi.number().integer().min(0).max(100_000),
  minutes: Joi.number().integer().min(1).max(1_440),
  megabytes: Joi.number().integer().min(1).max(100_000),
  row: Joi.number().integer().min(1).max(100_000),
  atOnce: Joi.number().integer().min(1).max(MOST_AT_ONCE).allow(null).label('the number of requests at once'),
  include: patterns,
  exclude: patterns,
  without: words(PAGE_KINDS),
  add: addresses(5_000),
  drop: addresses(5_000),
  most: Joi.number().integer().min(1).max(1_000_000).allow(null),
  dates: words(DATE_SOURCES),
  extensions: words(MADE_EXTENSIONS),
  weighing: Joi.array().items(weighing).max(100),
  gzip: Joi.boolean(),
  feed: Joi.string().valid('atom', 'rss').allow(null),
  every: Joi.string().pattern(DURATION, 'an ISO 8601 duration such as P1D or PT6H').allow(null),
  afterChange: Joi.string().pattern(DURATION, 'an ISO 8601 duration such as P1D or PT6H').allow(null),
  mostFall: Joi.number().integer().min(0).max(100),
  handOut: Joi.boolean(),
});

/** What the routes take and answer. */
export const makingRequests = {
  showMaking: { params: refParams('property'), answer: making },
  editRecipe: { params: refParams('property'), body: edit, answer: making },
  makeSitemap: { params: refParams('property'), body: edit, ...begun },
  listMadePages: {
    params: refParams('property'),
    query: Joi.object<QueryOf<typeof makingRoutes.listMadePages>, true>({
      state: pageState.label('the state'),
      why: whyText.label('the reason'),
      folder: Joi.string().max(2_048),
      match: Joi.string().allow('').max(200),
      after: Joi.string().max(2_048),
      limit: Joi.number().integer().min(1).max(500).default(100),
    }),
    answer: page(madePage),
  },
  writeSitemap: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof makingRoutes.writeSitemap>, true>({ anyway: Joi.boolean() }),
    answer: madeVersion,
  },
  allowVersion: {
    params: Joi.object<Record<string, string>, true>({ version: refText.required() }),
    answer: madeVersion,
  },
  showHandOut: { params: refParams('property'), answer: handOut },
} satisfies Record<string, RouteSchemas>;
