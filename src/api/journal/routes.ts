import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { JournalEntry } from './document.js';

/** What happened. */
export const journalRoutes = {
  journal: route<{ query?: PageQuery & { property?: string; client?: string } }, Page<JournalEntry>>({
    method: 'GET',
    path: '/journal',
    role: 'onlooker',
    status: 200,
    summary: 'What happened, newest first',
  }),
} as const;
