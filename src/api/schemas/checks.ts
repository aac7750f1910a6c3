import Joi from 'joi';
import type * as Doc from '../documents.js';
import { count, flag, id, list, maybe, maybeCount, maybeTime, method, text, time } from './parts.js';

export const findingKeys = {
  code: id,
  grade: Joi.valid('stops', 'harms', 'note').required(),
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
export const finding = Joi.object<Doc.Finding>(findingKeys).id('Finding');

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
  forecast: Joi.valid('accept', 'refuse', 'unsure').required(),
  visibleAt: maybeTime,
  findings: list(finding),
};
export const check = Joi.object<Doc.Check>(checkKeys).id('Check');

const hop = Joi.object<Doc.HopSeen>({
  url: id,
  address: maybe,
  status: maybeCount,
  location: maybe,
  headers: Joi.object().pattern(Joi.string(), Joi.string().allow('')).required(),
  certificate: Joi.object({
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
const records = list(Joi.object({ value: text, ttl: count }));
const serverSeen = Joi.object<Doc.ServerSeen>({
  name: id,
  address: maybe,
  role: Joi.valid('delegated', 'self-named', 'former').required(),
  authoritative: flag,
  rcode: maybe,
  records,
  alias: maybe,
  serial: maybeCount,
  refresh: maybeCount,
  via: id,
  failure: maybe,
});
export const seenThere = Joi.alternatives(
  Joi.object({
    kind: Joi.valid('page').required(),
    ...way,
    fresh: Joi.object(way).allow(null).required(),
    asBrowser: Joi.object({ status: maybeCount }).allow(null).required(),
    elsewhere: list(Joi.object({ url: id, kind: id, status: maybeCount })),
    around: Joi.object({ line: count, column: count, lines: list(Joi.object({ number: count, text })) })
      .allow(null)
      .required(),
  }),
  Joi.object({
    kind: Joi.valid('dns').required(),
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
    nearby: list(Joi.object({ name: id, kind: id, records })),
    wildcard: flag,
  }),
).required();
export const marked = list(Joi.object({ text: id, same: flag }));
