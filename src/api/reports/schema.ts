import Joi from 'joi';
import { REPORT_RHYTHMS } from '../../core/alerts/digest-time.js';
import { id, maybe, oneOf, text, time } from '../parts/schema.js';
import type { ReportOrder, ReportShown } from './document.js';

export const reportOrder = Joi.object<ReportOrder, true>({
  id,
  client: maybe,
  person: maybe,
  email: maybe,
  every: oneOf(REPORT_RHYTHMS).required(),
  at: id,
  zone: id,
  upTo: time,
  nextAt: time,
  createdAt: time,
}).id('ReportOrder');

export const reportShown = Joi.object<ReportShown, true>({ id, subject: id, text, html: text }).id(
  'ReportShown',
);
