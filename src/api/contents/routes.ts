import type { EntryAsked, EntryOrder } from '../../core/sitemap/contents/orders.js';
import type { Job } from '../jobs/document.js';
import { route, type PageQuery } from '../route.js';
import type { SitemapEntries, SitemapOutline } from './document.js';

/** Which addresses of a sitemap are meant. */
export interface EntriesAsked {
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

/** Looking inside a sitemap. */
export const contentsRoutes = {
  lookInside: route<{ params: { sitemap: string } }, Job>({
    method: 'POST',
    path: '/sitemaps/:sitemap/insides',
    role: 'onlooker',
    status: 202,
    summary: 'Fetch a sitemap with all that is in it, so that its addresses can be looked at one by one',
  }),
  listEntries: route<{ params: { sitemap: string }; query?: EntriesAsked & PageQuery }, SitemapEntries>({
    method: 'GET',
    path: '/sitemaps/:sitemap/entries',
    role: 'onlooker',
    status: 200,
    summary: 'The addresses of a sitemap as they stood when somebody last looked inside',
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
export const ENTRIES_CSV = '/sitemaps/:sitemap/entries.csv';
