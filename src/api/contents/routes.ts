import type { EntryAsked, EntryOrder } from '../../core/sitemap/contents/orders.js';
import type { Job } from '../jobs/document.js';
import { route, type PageQuery } from '../route.js';
import type { SitemapContents, SitemapOutline } from './document.js';

/** Which addresses of a sitemap are meant. */
export interface ContentsQuery {
  /** Letters that stand in the address. */
  match?: string;
  /** A folder, with all below it. */
  folder?: string;
  /** The number of a file of an index, from 1. */
  file?: number;
  /** RFC 3339 days: changed from then on, and before then. */
  since?: string;
  until?: string;
  /** The code of a finding, or `any`. */
  finding?: string;
  asked?: EntryAsked;
  order?: EntryOrder;
}

/** The contents of a sitemap: its addresses one by one. */
export const contentsRoutes = {
  readContents: route<{ params: { sitemap: string } }, Job>({
    method: 'POST',
    path: '/sitemaps/:sitemap/contents',
    role: 'onlooker',
    status: 202,
    summary: 'Fetch a sitemap with all of its contents',
  }),
  listContents: route<{ params: { sitemap: string }; query?: ContentsQuery & PageQuery }, SitemapContents>({
    method: 'GET',
    path: '/sitemaps/:sitemap/contents',
    role: 'onlooker',
    status: 200,
    summary: 'The contents of a sitemap, address by address, as they were last fetched',
  }),
  outlineSitemap: route<{ params: { sitemap: string }; query?: { folder?: string } }, SitemapOutline>({
    method: 'GET',
    path: '/sitemaps/:sitemap/outline',
    role: 'onlooker',
    status: 200,
    summary: 'The folders of a sitemap with their counts, and what was found of its addresses',
  }),
} as const;

/** The addresses as a table (RFC 4180), with the same query. */
export const CONTENTS_CSV = '/sitemaps/:sitemap/contents.csv';
