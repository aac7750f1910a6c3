import Joi from 'joi';
import { REACHES } from '../../core/address/reach.js';
import { BADGES } from '../../core/badge/standing.js';
import { ROLES } from '../../core/people/roles.js';
import { timeWritten } from '../../core/time/day-typed.js';
import { METHODS } from '../../core/profile/profile.js';
import { ACTS } from '../../core/worklist/kinds.js';
import type { EngineRef, Named, NextStep, Page } from './document.js';

/** One of some words. */
export const oneOf = <Word extends string>(words: readonly Word[]) => Joi.string().valid(...words);

/** The pieces that documents are made of. */
export const id = Joi.string().required();

export const text = Joi.string().allow('').required();

export const maybe = Joi.string().allow(null, '').required();

/** A day or a time (RFC 3339) that the calendar has, as input. */
export const dayText = Joi.string()
  .isoDate()
  .custom((value: string, helpers) =>
    timeWritten(value) === null ? helpers.error('string.isoDate') : value,
  );

export const time = Joi.string().isoDate().required();

export const maybeTime = Joi.string().isoDate().allow(null).required();

export const count = Joi.number().integer().required();

export const maybeCount = Joi.number().integer().allow(null).required();

export const flag = Joi.boolean().required();

/** How a request names a thing: by handle, address, identifier or a unique part of one. */
export const refText = Joi.string().trim().min(1).max(2048);

export const refParams = (name: string) =>
  Joi.object<Record<string, string>, true>({ [name]: refText.required() });

export const role = oneOf(ROLES);

export const reach = oneOf(REACHES);

export const method = oneOf(METHODS);

export const badge = oneOf(BADGES);

export const list = (item: Joi.Schema) => Joi.array().items(item).required();

export const items = (item: Joi.Schema) => Joi.object<{ items: unknown[] }, true>({ items: list(item) });

export const page = (item: Joi.Schema) =>
  Joi.object<Page<unknown>, true>({ items: list(item), next: Joi.string().allow(null).required() });

export const named = { id, handle: id };

export const engineRef = Joi.object<EngineRef, true>({ id, title: id }).required();

/** How many there are of each kind, by its name. */
export const counts = Joi.object().pattern(Joi.string(), count).required();

/** Which page of a list, and how much of it. */
export const pageQuery = {
  after: Joi.string().max(200),
  limit: Joi.number().integer().min(1).max(500).default(100),
};

/** What most lists can be narrowed to. */
export const narrow = { client: refText, engine: refText, match: Joi.string().allow('').max(1_000) };

export const namedClient = Joi.object<Named & { name: string }, true>({ ...named, name: text }).required();

export const stepKeys = {
  kind: id,
  says: id,
  acts: oneOf(ACTS).required(),
  since: time,
  until: maybeTime,
};

export const step = Joi.object<NextStep, true>(stepKeys).id('NextStep');

/** A handle that somebody gives. */
export const handleText = Joi.string()
  .pattern(/^[a-z0-9][a-z0-9-]{0,59}$/, 'a handle: lower-case letters, digits and hyphens')
  .messages({ 'string.pattern.name': '{#label} must be {#name}, such as “ferries”' });
export const nameText = Joi.string().trim().min(1).max(120);

export const whichEnrolments = {
  enrolments: Joi.array().items(refText).min(1).max(20_000),
  all: Joi.boolean(),
  method,
};

/** An address of mail; names of our own, such as marit@harbour.example, are none that everybody knows. */
export const mailText = Joi.string()
  .email({ tlds: { allow: false } })
  .max(200);
/** The name of a time zone. */
export const zoneText = Joi.string().trim().min(1).max(60);
export const clockText = Joi.string().pattern(
  /^(?:[01]\d|2[0-3]):[0-5]\d$/u,
  'an hour and minute, such as 07:30',
);

/** What somebody wants all the same: everything, or what they were asked about. */
export const anyway = Joi.alternatives(Joi.boolean(), Joi.array().items(Joi.string().max(40)).max(10));
