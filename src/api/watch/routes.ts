import { route, type PageQuery } from '../route.js';
import type { Pause, Watch } from './document.js';

/** What a pause is of: a property, a client, or everything. */
interface PauseOf {
  property?: string;
  client?: string;
  all?: boolean;
}

/** The watch: what is looked at by itself. */
export const watchRoutes = {
  showWatch: route<{ query?: PageQuery & { property?: string; client?: string; due?: boolean } }, Watch>({
    method: 'GET',
    path: '/watch',
    role: 'onlooker',
    status: 200,
    summary: 'What is looked at by itself, soonest due first, and how the watch is',
  }),
  pauseWatch: route<{ body: PauseOf & { why?: string; until?: string } }, Pause>({
    method: 'POST',
    path: '/watch/pauses',
    role: 'consultant',
    status: 201,
    summary: 'Pause the checks of a property, a client or everything for a while',
  }),
  resumeWatch: route<{ body: PauseOf }, { items: Pause[] }>({
    method: 'POST',
    path: '/watch/resumed',
    role: 'consultant',
    status: 200,
    summary: 'End such pauses',
  }),
} as const;
