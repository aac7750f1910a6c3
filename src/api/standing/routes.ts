import type { Badge, NextStep } from '../parts/document.js';
import { route, type Input, type Narrow, type PageQuery } from '../route.js';
import type { HandInput, Marked, PutOffInput, StepsMeant, Verification, Worklist, Yard } from './document.js';

/** Where everything stands: the yard, what to do next, and whether what is kept ready is true. */
export const standingRoutes = {
  yard: route<{ query?: PageQuery & Narrow & { property?: string; badge?: Badge; kind?: string } }, Yard>({
    method: 'GET',
    path: '/yard',
    role: 'onlooker',
    status: 200,
    summary: 'Where every property stands at every engine',
  }),
  worklist: route<
    {
      query?: PageQuery &
        Narrow & {
          property?: string;
          badge?: Badge;
          kind?: string;
          acts?: NextStep['acts'];
          person?: string;
        };
    },
    Worklist
  >({
    method: 'GET',
    path: '/worklist',
    role: 'onlooker',
    status: 200,
    summary: 'What to do next, worst and oldest harm first',
  }),
  putOffSteps: route<{ body: PutOffInput }, Marked>({
    method: 'POST',
    path: '/worklist/put-off',
    role: 'consultant',
    status: 200,
    summary: 'Leave steps until a day, with a reason',
  }),
  takeUpSteps: route<{ body: StepsMeant }, Marked>({
    method: 'POST',
    path: '/worklist/taken-up',
    role: 'consultant',
    status: 200,
    summary: 'Take steps up again that were put off',
  }),
  handSteps: route<{ body: HandInput }, Marked>({
    method: 'POST',
    path: '/worklist/handed',
    role: 'consultant',
    status: 200,
    summary: 'Hand steps to a person, or to nobody in particular',
  }),
  verifyRecords: route<Input, Verification>({
    method: 'GET',
    path: '/records/verification',
    role: 'lead',
    status: 200,
    summary: 'What is kept ready, held against what the facts say',
  }),
} as const;
