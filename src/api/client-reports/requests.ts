import Joi from 'joi';
import { dayText, mailText, oneOf, page, pageQuery, refParams, refText } from '../parts/schema.js';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { clientReportsRoutes } from './routes.js';
import { reportKept, reportWritten, wholeReport } from './schema.js';

const span = {
  from: dayText.label('the first day'),
  to: dayText.label('the last day'),
  language: oneOf(SHEET_LANGUAGES),
};

/** What the routes take and answer. */
export const clientReportsRequests = {
  writeReport: {
    params: refParams('client'),
    query: Joi.object<QueryOf<typeof clientReportsRoutes.writeReport>, true>(span),
    answer: reportWritten,
  },
  keepReport: {
    params: refParams('client'),
    body: Joi.object<BodyOf<typeof clientReportsRoutes.keepReport>, true>({
      ...span,
      email: mailText,
      contact: refText,
      anyway: Joi.boolean(),
    }).oxor('email', 'contact'),
    answer: reportKept,
  },
  listKeptReports: {
    params: refParams('client'),
    query: Joi.object<QueryOf<typeof clientReportsRoutes.listKeptReports>, true>(pageQuery),
    answer: page(reportKept),
  },
  showKeptReport: { params: refParams('id'), answer: wholeReport },
} satisfies Record<string, RouteSchemas>;
