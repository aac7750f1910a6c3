import Joi from 'joi';
import type * as Doc from '../documents.js';
import { linkState, met } from './engines.js';
import {
  badge,
  count,
  engineRef,
  flag,
  id,
  list,
  maybe,
  maybeTime,
  method,
  named,
  reach,
  role,
  text,
  time,
  counts,
} from './parts.js';
import { ACTS } from '../../core/worklist/kinds.js';
import { foundSitemap, pageAnswer } from './sitemaps.js';
import { variantsInYard } from './variants.js';
import { check, checkKeys, marked, seenThere } from './checks.js';

export { check, finding } from './checks.js';
export { newSitemap, ration, sitemap, sitemaps } from './sitemaps.js';
export { variants } from './variants.js';
export { account, engine, fit, pastedToken, advice } from './engines.js';
export { badge, items, method, page, reach, role } from './parts.js';

const namedClient = Joi.object({ ...named, name: text }).required();

export const person = Joi.object<Doc.Person>({ id, name: text, role: role.required(), createdAt: time }).id(
  'Person',
);
export const key = Joi.object<Doc.Key>({
  id,
  kind: Joi.valid('key', 'session').required(),
  label: text,
  agent: maybe,
  createdAt: time,
  usedAt: maybeTime,
  expiresAt: maybeTime,
  current: flag,
}).id('Key');
export const newKey = Joi.object<Doc.NewKey>({
  id,
  label: text,
  createdAt: time,
  expiresAt: maybeTime,
  key: id,
}).id('NewKey');
export const client = Joi.object<Doc.Client>({
  ...named,
  name: text,
  contact: maybe,
  audience: list(Joi.string()),
  properties: count,
  createdAt: time,
  version: count,
}).id('Client');

const hand = Joi.valid('yes', 'no');
export const access = Joi.object<Doc.Access>({ zone: hand, files: hand, pages: hand });

const propertyKeys = {
  ...named,
  client: namedClient,
  address: id,
  addressForPeople: id,
  host: Joi.object({ ascii: id, unicode: id, registrable: id }).required(),
  frontDoor: Joi.object({ address: maybe, forPeople: maybe, says: maybe, seenAt: maybeTime }).required(),
  facts: Joi.object().pattern(Joi.string(), Joi.string()).required(),
  access: access.required(),
  createdAt: time,
  archivedAt: maybeTime,
  version: count,
};
export const property = Joi.object<Doc.Property>(propertyKeys).id('Property');
export const newProperty = Joi.object<Doc.NewProperty>({
  ...propertyKeys,
  notes: list(Joi.string()),
  job: id,
}).id('NewProperty');

const put = Joi.alternatives(
  Joi.object({ kind: Joi.valid('meta').required(), page: id, name: id, content: id, tag: id }),
  Joi.object({
    kind: Joi.valid('file').required(),
    url: id,
    path: id,
    fileName: id,
    content: id,
    bytes: count,
  }),
  Joi.object({
    kind: Joi.valid('dns').required(),
    zone: id,
    recordName: id,
    type: Joi.valid('TXT').required(),
    value: id,
    zoneLine: id,
  }),
).required();

const placement = Joi.object<Doc.Placement>({
  method: method.required(),
  token: id,
  issuedAt: time,
  expiresAt: maybeTime,
  place: id,
  put,
  check: Joi.object({
    ...checkKeys,
    seenThere: seenThere.allow(null),
    marked: Joi.object({ should: marked, stands: marked }).allow(null).required(),
  })
    .allow(null)
    .required(),
  recordedBy: maybe,
  before: Joi.object({ token: id, replacedAt: time, why: Joi.valid('expired', 'changed').required(), put })
    .allow(null)
    .required(),
  standsAt: list(Joi.object({ enrolment: id, place: id, checkedAt: time })),
}).id('Placement');

export const claim = Joi.object<Doc.Claim>({
  id,
  enrolment: id,
  method: method.required(),
  askedAt: time,
  answeredAt: maybeTime,
  verdict: Joi.valid('confirmed', 'refused', null).required(),
  reason: maybe,
  recordedBy: maybe,
}).id('Claim');

const stepKeys = {
  kind: id,
  says: id,
  acts: Joi.valid(...ACTS).required(),
  since: time,
  until: maybeTime,
};

const step = Joi.object<Doc.NextStep>(stepKeys).id('NextStep');

const lineKeys = {
  id,
  name: id,
  engine: engineRef,
  byHand: flag,
  reach: reach.required(),
  target: id,
  targetForPeople: id,
  badge: badge.required(),
  badgeSince: time,
  step: step.required(),
};
const line = Joi.object<Doc.EnrolmentLine>(lineKeys).id('EnrolmentLine');
export const enrolment = Joi.object<Doc.Enrolment>({
  ...lineKeys,
  property: Joi.object(named).required(),
  account: Joi.object(named).required(),
  ref: id,
  createdAt: time,
  methods: list(method),
  placements: list(placement),
  claim: claim.allow(null).required(),
  ownership: Joi.object({
    kind: Joi.valid('confirmed', 'withdrawn').required(),
    at: time,
    reason: maybe,
    recordedBy: maybe,
  })
    .allow(null)
    .required(),
  missingSince: maybeTime,
  asOf: time,
  suspended: list(linkState),
}).id('Enrolment');

export const yard = Joi.object<Doc.Yard>({
  engines: list(Joi.object({ id, title: id, from: engineRef.allow(null) })),
  items: list(
    Joi.object<Doc.YardRow>({
      property: Joi.object({ ...named, addressForPeople: id, client: namedClient }).required(),
      enrolments: list(line),
      sitemaps: Joi.object({
        total: count,
        state: Joi.valid('unread', 'clean', 'flawed', 'unreachable', 'none').required(),
      }).required(),
      variants: variantsInYard,
      fits: list(Joi.string()),
      step: Joi.object({ ...stepKeys, engine: maybe })
        .allow(null)
        .required(),
    }).id('YardRow'),
  ),
  counts,
  next: maybe,
}).id('Yard');

export const worklist = Joi.object<Doc.Worklist>({
  items: list(
    Joi.object<Doc.WorkEntry>({
      property: Joi.object({ ...named, client: namedClient }).required(),
      properties: count,
      engines: list(Joi.object({ id, title: id })),
      enrolments: list(Joi.object({ id, name: id, engine: id, badge: badge.required() })),
      step: step.required(),
    }).id('WorkEntry'),
  ),
  counts,
  next: maybe,
}).id('Worklist');

export const verification = Joi.object<Doc.Verification>({
  properties: count,
  rows: count,
  differing: list(Joi.object({ property: id, table: id, row: id, kept: maybe, derived: maybe })),
}).id('Verification');

export const journalEntry = Joi.object<Doc.JournalEntry>({
  seq: count,
  at: time,
  who: maybe,
  kind: id,
  client: maybe,
  property: maybe,
  says: id,
  details: Joi.any().required(),
}).id('JournalEntry');

const result = Joi.object<Doc.JobResult>({
  says: id,
  stops: flag,
  problem: Joi.object({ code: id, detail: id }),
  enrolment: Joi.string(),
  check,
  claim,
  sitemap: Joi.string(),
  property: Joi.string(),
  placements: Joi.number().integer(),
  warning: Joi.string(),
  page: pageAnswer,
  found: Joi.array().items(foundSitemap),
  met: Joi.array().items(met),
}).id('JobResult');

export const job = Joi.object<Doc.Job>({
  id,
  kind: id,
  state: Joi.valid('waiting', 'running', 'stopped', 'done').required(),
  createdAt: time,
  finishedAt: maybeTime,
  total: count,
  finished: count,
  rests: maybeTime,
  items: list(
    Joi.object({
      id,
      subject: id,
      state: Joi.valid('waiting', 'running', 'done', 'failed').required(),
      result: result.allow(null).required(),
      dueAt: maybeTime,
    }),
  ),
  next: maybe,
}).id('Job');
