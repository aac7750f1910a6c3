import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { MadeLink, NewSharedLink, SharedLink } from './document.js';

/** Links by which sheets are seen without signing in. */
export const sharedRoutes = {
  addLink: route<{ body: NewSharedLink }, MadeLink>({
    method: 'POST',
    path: '/links',
    role: 'consultant',
    status: 201,
    summary: 'Make a link to the sheet of a property or a client; its address is shown this once',
  }),
  listLinks: route<
    { query?: PageQuery & { property?: string; client?: string; all?: boolean } },
    Page<SharedLink>
  >({
    method: 'GET',
    path: '/links',
    role: 'onlooker',
    status: 200,
    summary: 'Shared links, newest first: those that work, or with “all” those too that do so no more',
  }),
  endLink: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/links/:id',
    role: 'consultant',
    status: 204,
    summary: 'Have a shared link work no more',
  }),
} as const;

/** Where the sheet of a link is seen. */
export const SHARED = '/shared/:secret';
