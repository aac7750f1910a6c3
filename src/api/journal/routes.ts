import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { JournalEntry } from './document.js';

/** What happened. */
export const journalRoutes = {
  journal: route<
    {
      query?: PageQuery & {
        property?: string;
        client?: string;
        /** A kind of happening, `claim.confirmed`, or all of one, `claim`. */
        kind?: string;
        /** The name of the person who did it; `service` for what nobody did, `people` for what anybody did. */
        who?: string;
        /** RFC 3339: not before, and before. */
        from?: string;
        until?: string;
      };
    },
    Page<JournalEntry>
  >({
    method: 'GET',
    path: '/journal',
    role: 'onlooker',
    status: 200,
    summary:
      'What happened, newest first: of everything, a client or a property, of one kind, by one person, between two times',
  }),
} as const;
