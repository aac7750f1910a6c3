import Joi from 'joi';
import { FORECASTS } from '../../core/badge/judge/judge.js';
import { SERVER_ROLES } from '../../core/badge/probe/evidence.js';
import { GRADES } from '../../core/findings/finding.js';
import {
  count,
  flag,
  id,
  list,
  maybe,
  maybeCount,
  maybeTime,
  method,
  oneOf,
  text,
  time,
} from '../parts/schema.js';
import type {
  Check,
  EvidenceSeen,
  Finding,
  HopSeen,
  MarkedPiece,
  PageSeenShort,
  ServerSeen,
  TxtSeen,
} from './document.js';

export const findingKeys = {
  code: id,
  grade: oneOf(GRADES).required(),
  says: id,
  evidence: Joi.object()
    .pattern(
      Joi.string(),
      Joi.alternatives(Joi.string().allow(''), Joi.number(), Joi.boolean(), Joi.valid(null)),
    )
    .required(),
  remedy: text,
  follows: maybe,
};

export const finding = Joi.object<Finding, true>(findingKeys).id('Finding');

export const checkKeys = {
  id,
  property: id,
  engine: id,
  enrolment: id,
  method: method.required(),
  place: id,
  checkedAt: time,
  firstAt: time,
  times: count,
  seen: flag,
  seenSince: time,
  tried: flag,
  forecast: oneOf(FORECASTS).required(),
  visibleAt: maybeTime,
  findings: list(finding),
};

export const check = Joi.object<Check, true>(checkKeys).id('Check');

const hop = Joi.object<HopSeen, true>({
  url: id,
  address: maybe,
  status: maybeCount,
  location: maybe,
  headers: Joi.object().pattern(Joi.string(), Joi.string().allow('')).required(),
  certificate: Joi.object<NonNullable<HopSeen['certificate']>, true>({
    subject: text,
    issuer: text,
    names: list(Joi.string()),
    validFrom: id,
    validUntil: id,
  })
    .allow(null)
    .required(),
  failure: maybe,
  detail: maybe,
  ms: Joi.number().required(),
});

const way = { end: id, hops: list(hop), mediaType: maybe, bytes: maybeCount };

const records = list(Joi.object<TxtSeen, true>({ value: text, ttl: count }));

const serverSeen = Joi.object<ServerSeen, true>({
  name: id,
  address: maybe,
  role: oneOf(SERVER_ROLES).required(),
  authoritative: flag,
  rcode: maybe,
  records,
  alias: maybe,
  serial: maybeCount,
  refresh: maybeCount,
  via: id,
  failure: maybe,
});

type PageEvidence = Extract<EvidenceSeen, { kind: 'page' }>;
type DnsEvidence = Extract<EvidenceSeen, { kind: 'dns' }>;
type Around = NonNullable<PageEvidence['around']>;

export const seenThere = Joi.alternatives(
  Joi.object<PageEvidence, true>({
    kind: oneOf(['page']).required(),
    ...way,
    fresh: Joi.object<PageSeenShort, true>(way).allow(null).required(),
    asBrowser: Joi.object<{ status: number | null }, true>({ status: maybeCount }).allow(null).required(),
    elsewhere: list(
      Joi.object<PageEvidence['elsewhere'][number], true>({ url: id, kind: id, status: maybeCount }),
    ),
    around: Joi.object<Around, true>({
      line: count,
      column: count,
      lines: list(Joi.object<Around['lines'][number], true>({ number: count, text })),
    })
      .allow(null)
      .required(),
  }),
  Joi.object<DnsEvidence, true>({
    kind: oneOf(['dns']).required(),
    name: id,
    rcode: maybe,
    records,
    aliases: list(Joi.string()),
    negativeTtl: maybeCount,
    via: id,
    server: id,
    failure: maybe,
    zone: maybe,
    servers: list(serverSeen),
    nearby: list(Joi.object<DnsEvidence['nearby'][number], true>({ name: id, kind: id, records })),
    wildcard: flag,
    wildAddresses: list(Joi.string()),
  }),
).required();

export const marked = list(Joi.object<MarkedPiece, true>({ text: id, same: flag }));
