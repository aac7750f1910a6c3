import { route, type Input } from '../route.js';
import type { NewReport, ReportOrder, ReportShown } from './document.js';

/** Reports that are sent by themselves: to people of the agency, or to a client's. */
export const reportsRoutes = {
  listReports: route<Input, { items: ReportOrder[] }>({
    method: 'GET',
    path: '/reports',
    role: 'onlooker',
    status: 200,
    summary: 'Reports that are sent by themselves',
  }),
  addReport: route<{ body: NewReport }, ReportOrder>({
    method: 'POST',
    path: '/reports',
    role: 'consultant',
    status: 201,
    summary: 'Have a report sent every week or month, of a client or of all',
  }),
  showReport: route<{ params: { id: string } }, ReportShown>({
    method: 'GET',
    path: '/reports/:id',
    role: 'onlooker',
    status: 200,
    summary: 'What a report would say if it were sent now',
  }),
  endReport: route<{ params: { id: string } }, null>({
    method: 'DELETE',
    path: '/reports/:id',
    role: 'consultant',
    status: 204,
    summary: 'Send it no more',
  }),
} as const;
