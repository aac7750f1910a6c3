import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import type { ClientReport, Counted, Harm, SitemapCounts, StandsAt, Told } from '../../core/report/report.js';
import { count, flag, id, list, maybe, maybeTime, oneOf, text, time } from '../parts/schema.js';
import type { ReportKept, ReportWritten, WholeReport } from './document.js';

const told = Joi.object<Told, true>({ at: time, property: id, says: text });
const points = list(Joi.object<Counted, true>({ at: time, count }));

const clientReport = Joi.object<ClientReport, true>({
  language: oneOf(SHEET_LANGUAGES).required(),
  client: id,
  from: time,
  to: time,
  totals: Joi.object<ClientReport['totals'], true>({
    properties: count,
    held: count,
    slipping: count,
    lost: count,
  }).required(),
  properties: list(
    Joi.object<ClientReport['properties'][number], true>({
      address: id,
      at: list(Joi.object<StandsAt, true>({ engine: id, isHeld: flag, says: text })),
    }),
  ),
  changed: list(told),
  did: list(told),
  harms: list(
    Joi.object<Harm, true>({ property: id, says: text, seenAt: time, overAt: maybeTime, actedAt: maybeTime }),
  ),
  sitemaps: list(
    Joi.object<SitemapCounts, true>({
      url: id,
      ours: points,
      engines: list(Joi.object<SitemapCounts['engines'][number], true>({ engine: id, found: points })),
    }),
  ),
  toDo: list(Joi.object<ClientReport['toDo'][number], true>({ property: id, says: text })),
}).id('ClientReport');

export const reportWritten = Joi.object<ReportWritten, true>({
  title: id,
  html: text,
  markdown: text,
  mail: Joi.object<ReportWritten['mail'], true>({ subject: id, text, html: text }).required(),
  report: clientReport.required(),
}).id('ReportWritten');

const keptKeys = { id, client: id, from: time, to: time, at: time, by: maybe, sentTo: maybe, title: id };

export const reportKept = Joi.object<ReportKept, true>(keptKeys).id('ReportKept');

export const wholeReport = Joi.object<WholeReport, true>({ ...keptKeys, html: text, markdown: text }).id(
  'WholeReport',
);
