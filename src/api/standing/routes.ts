import type { Badge, NextStep } from '../parts/document.js';
import { route, type Input, type Narrow, type PageQuery } from '../route.js';
import type { Verification, Worklist, Yard } from './document.js';

/** Where everything stands: the yard, what to do next, and whether what is kept ready is true. */
export const standingRoutes = {
  yard: route<{ query?: PageQuery & Narrow & { badge?: Badge; kind?: string } }, Yard>({
    method: 'GET',
    path: '/yard',
    role: 'onlooker',
    status: 200,
    summary: 'Where every property stands at every engine',
  }),
  worklist: route<
    {
      query?: PageQuery &
        Narrow & { property?: string; badge?: Badge; kind?: string; acts?: NextStep['acts'] };
    },
    Worklist
  >({
    method: 'GET',
    path: '/worklist',
    role: 'onlooker',
    status: 200,
    summary: 'What to do next, worst and oldest harm first',
  }),
  verifyRecords: route<Input, Verification>({
    method: 'GET',
    path: '/records/verification',
    role: 'lead',
    status: 200,
    summary: 'What is kept ready, held against what the facts say',
  }),
} as const;
