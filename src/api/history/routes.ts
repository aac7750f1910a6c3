import { route } from '../route.js';
import type { PropertyHistory } from './document.js';

/** How things stood. */
export const historyRoutes = {
  history: route<{ params: { property: string } }, PropertyHistory>({
    method: 'GET',
    path: '/properties/:property/history',
    role: 'onlooker',
    status: 200,
    summary: 'How a property stood over its time: badges, front doors, stay-away, sitemap counts',
  }),
} as const;
