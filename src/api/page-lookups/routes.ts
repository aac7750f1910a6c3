import type { Job } from '../jobs/document.js';
import { route } from '../route.js';
import type { RationOfAccount } from './document.js';

/** Which single pages a request is about, and where it is asked. */
export type PageLookupBody = { addresses: string[]; engine?: string; spread?: boolean };

/** Single pages: lookups, visits and what is left of them. */
export const pageLookupsRoutes = {
  lookUp: route<{ body: PageLookupBody }, Job>({
    method: 'POST',
    path: '/lookups',
    role: 'consultant',
    status: 202,
    summary: 'Ask engines whether they list single pages, within the day’s ration or spread over days',
  }),
  askVisit: route<{ body: PageLookupBody }, Job>({
    method: 'POST',
    path: '/visits',
    role: 'consultant',
    status: 202,
    summary: 'Ask engines to visit single pages, within the day’s ration or spread over days',
  }),
  listRations: route<object, { items: RationOfAccount[] }>({
    method: 'GET',
    path: '/rations',
    role: 'onlooker',
    status: 200,
    summary: 'What is left of today’s lookups and visits',
  }),
} as const;
