import Joi from 'joi';
import { REPORT_RHYTHMS } from '../../core/alerts/digest-time.js';
import { clockText, items, mailText, oneOf, refParams, refText, zoneText } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { reportsRoutes } from './routes.js';
import { reportOrder, reportShown } from './schema.js';

/** What the routes take and answer. */
export const reportsRequests = {
  listReports: { answer: items(reportOrder) },
  addReport: {
    body: Joi.object<BodyOf<typeof reportsRoutes.addReport>, true>({
      client: refText,
      person: refText,
      email: mailText,
      contact: Joi.boolean().valid(true),
      every: oneOf(REPORT_RHYTHMS).required(),
      at: clockText.label('the hour'),
      zone: zoneText.label('the time zone'),
    })
      .xor('person', 'email', 'contact')
      // Of all clients nobody is told who is none of the agency.
      .with('email', 'client')
      .with('contact', 'client'),
    answer: reportOrder,
  },
  showReport: { params: refParams('id'), answer: reportShown },
  endReport: { params: refParams('id') },
} satisfies Record<string, RouteSchemas>;
