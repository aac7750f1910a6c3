import type { Job } from '../jobs/document.js';
import { route } from '../route.js';

/** The robots.txt of properties. */
export const robotsRoutes = {
  judgeRobots: route<{ params: { property: string }; body: { addresses?: string[]; draft?: string } }, Job>({
    method: 'POST',
    path: '/properties/:property/robots',
    role: 'onlooker',
    status: 202,
    summary:
      'Which line of the robots.txt, or of a draft of one, decides for addresses and engines; what is wrong with it, and what is missing',
  }),
} as const;
