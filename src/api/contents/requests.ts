import Joi from 'joi';
import { ENTRY_ASKED, ENTRY_ORDERS } from '../../core/sitemap/contents/orders.js';
import { begun } from '../jobs/schema.js';
import { dayText, oneOf, pageQuery, refParams } from '../parts/schema.js';
import type { QueryOf, RouteSchemas } from '../route-schemas.js';
import type { contentsRoutes } from './routes.js';
import { sitemapContents, sitemapOutline } from './schema.js';

const day = dayText;
const folder = Joi.string().max(4_096);

/** What narrows the addresses; the same for a page of them and for all as a table. */
export const contentsQuery = {
  match: Joi.string().max(500),
  folder,
  file: Joi.number().integer().min(0).max(50_000),
  since: day,
  until: day.label('the last day'),
  finding: Joi.string().pattern(/^(any|sitemap\.[a-z-]+)$/u, 'the code of a finding, or any'),
  asked: oneOf(ENTRY_ASKED),
  order: oneOf(ENTRY_ORDERS).label('the order'),
};

/** What the routes take and answer. */
export const contentsRequests = {
  readContents: { params: refParams('sitemap'), ...begun },
  listContents: {
    params: refParams('sitemap'),
    query: Joi.object<QueryOf<typeof contentsRoutes.listContents>, true>({ ...pageQuery, ...contentsQuery }),
    answer: sitemapContents,
  },
  outlineSitemap: {
    params: refParams('sitemap'),
    query: Joi.object<QueryOf<typeof contentsRoutes.outlineSitemap>, true>({ folder }),
    answer: sitemapOutline,
  },
} satisfies Record<string, RouteSchemas>;
