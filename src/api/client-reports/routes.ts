import type { Page } from '../parts/document.js';
import { route, type PageQuery } from '../route.js';
import type { NewKeptReport, ReportAsked, ReportKept, ReportWritten, WholeReport } from './document.js';

/** Reports for clients’ owners. */
export const clientReportsRoutes = {
  writeReport: route<{ params: { client: string }; query?: ReportAsked }, ReportWritten>({
    method: 'GET',
    path: '/clients/:client/report',
    role: 'onlooker',
    status: 200,
    summary:
      'How a client’s websites stand, and what happened in a stretch of time; the last month where none is said',
  }),
  keepReport: route<{ params: { client: string }; body: NewKeptReport }, ReportKept>({
    method: 'POST',
    path: '/clients/:client/reports',
    role: 'consultant',
    status: 201,
    summary: 'Keep a report as it is now, and send it where an address or a contact is named',
  }),
  listKeptReports: route<{ params: { client: string }; query?: PageQuery }, Page<ReportKept>>({
    method: 'GET',
    path: '/clients/:client/reports',
    role: 'onlooker',
    status: 200,
    summary: 'Reports that were kept, newest first',
  }),
  showKeptReport: route<{ params: { id: string } }, WholeReport>({
    method: 'GET',
    path: '/kept-reports/:id',
    role: 'onlooker',
    status: 200,
    summary: 'One report, as it was',
  }),
} as const;
