import type { SitemapOrder } from '../../core/sitemap/list-order.js';
import type { Job } from '../jobs/document.js';
import { route, type Narrow, type PageQuery } from '../route.js';
import type { NewSitemap, ReadingDifference, Sitemap, SitemapDetail, Sitemaps } from './document.js';

/** Sitemaps, and what engines made of them. */
export const sitemapsRoutes = {
  listSitemaps: route<
    {
      query?: PageQuery &
        Narrow & {
          property?: string;
          state?: Sitemap['state'];
          /** Whether something is to be done about it. */
          work?: 'yes' | 'no';
          order?: SitemapOrder;
          brief?: boolean;
        };
    },
    Sitemaps
  >({
    method: 'GET',
    path: '/sitemaps',
    role: 'onlooker',
    status: 200,
    summary:
      'Sitemaps with readings and submissions: of a property in whole, unless in brief; of several with the worst finding of each alone',
  }),
  addSitemap: route<{ body: { property: string; address: string } }, NewSitemap>({
    method: 'POST',
    path: '/sitemaps',
    role: 'consultant',
    status: 201,
    summary: 'Note a sitemap of a property',
  }),
  showSitemap: route<{ params: { sitemap: string } }, SitemapDetail>({
    method: 'GET',
    path: '/sitemaps/:sitemap',
    role: 'onlooker',
    status: 200,
    summary: 'One sitemap with the sitemaps in it, and its counts over time',
  }),
  compareReadings: route<
    { params: { sitemap: string }; query?: { from?: string; to?: string; limit?: number } },
    ReadingDifference
  >({
    method: 'GET',
    path: '/sitemaps/:sitemap/difference',
    role: 'onlooker',
    status: 200,
    summary: 'The addresses that came and went between two readings, named by identifier or day',
  }),
  findSitemaps: route<{ params: { property: string }; body: { note?: boolean } }, Job>({
    method: 'POST',
    path: '/properties/:property/found-sitemaps',
    role: 'consultant',
    status: 202,
    summary: 'Look for the sitemaps of a property, and note the one to submit',
  }),
  readSitemaps: route<
    { body: { property?: string; sitemap?: string; all?: boolean; sample?: number; seed?: number } },
    Job
  >({
    method: 'POST',
    path: '/readings',
    role: 'consultant',
    status: 202,
    summary: 'Read sitemaps, try some of their pages, and ask engines for their readings',
  }),
  acceptFall: route<{ params: { sitemap: string } }, Job>({
    method: 'POST',
    path: '/sitemaps/:sitemap/fall-accepted',
    role: 'consultant',
    status: 202,
    summary: 'Say that the lower count of a sitemap is right, and read it once more',
  }),
  dropSitemap: route<{ params: { sitemap: string } }, null>({
    method: 'DELETE',
    path: '/sitemaps/:sitemap',
    role: 'consultant',
    status: 204,
    summary: 'Take out a sitemap that was noted by mistake and that no engine knows',
  }),
  submitSitemap: route<{ body: { sitemap: string; enrolments?: string[]; anyway?: boolean } }, Job>({
    method: 'POST',
    path: '/submissions',
    role: 'consultant',
    status: 202,
    summary: 'Make a sitemap known to engines; one that is known is told of again where pings are taken',
  }),
  withdrawSitemap: route<{ params: { id: string } }, Job>({
    method: 'DELETE',
    path: '/submissions/:id',
    role: 'consultant',
    status: 202,
    summary: 'Withdraw a submission',
  }),
  withdrawSitemaps: route<{ body: { submissions: string[] } }, Job>({
    method: 'POST',
    path: '/withdrawals',
    role: 'consultant',
    status: 202,
    summary: 'Withdraw several submissions in one go',
  }),
  recordReading: route<
    {
      params: { id: string };
      body: { found?: number; listed?: number; readAt?: string; trouble?: string };
    },
    Sitemap
  >({
    method: 'POST',
    path: '/submissions/:id/readings',
    role: 'consultant',
    status: 201,
    summary: 'Record what a manual engine says of a sitemap',
  }),
} as const;
