import type { Job } from '../jobs/document.js';
import { route } from '../route.js';
import type { RobotsKept } from './document.js';

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
  showRobots: route<{ params: { property: string } }, { kept: RobotsKept | null }>({
    method: 'GET',
    path: '/properties/:property/robots/kept',
    role: 'onlooker',
    status: 200,
    summary: 'The robots.txt that was written for a property and is to be published',
  }),
  keepRobots: route<
    { params: { property: string }; body: { text: string; over: string | null; anyway?: boolean } },
    RobotsKept
  >({
    method: 'POST',
    path: '/properties/:property/robots/kept',
    role: 'consultant',
    status: 200,
    summary: 'Keep a robots.txt, so that it can be published',
  }),
  dropRobots: route<{ params: { property: string } }, null>({
    method: 'DELETE',
    path: '/properties/:property/robots/kept',
    role: 'consultant',
    status: 204,
    summary: 'Drop the robots.txt that was kept; what was published stays where it is',
  }),
} as const;
