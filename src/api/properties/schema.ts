import Joi from 'joi';
import { count, id, list, maybe, maybeTime, named, namedClient, oneOf, time } from '../parts/schema.js';
import { rhythms } from '../watch/schema.js';
import type { Access, NewProperty, Property } from './document.js';

const hand = oneOf(['yes', 'no']);

export const access = Joi.object<Access, true>({
  zone: hand.label('the answer for the DNS zone'),
  files: hand.label('the answer for the web root'),
  pages: hand.label('the answer for the page templates'),
});

const propertyKeys = {
  ...named,
  client: namedClient,
  address: id,
  addressForPeople: id,
  host: Joi.object<Property['host'], true>({
    ascii: id,
    unicode: id,
    registrable: id,
  }).required(),
  frontDoor: Joi.object<Property['frontDoor'], true>({
    address: maybe,
    forPeople: maybe,
    says: maybe,
    seenAt: maybeTime,
  }).required(),
  facts: Joi.object().pattern(Joi.string(), Joi.string()).required(),
  access: access.required(),
  rhythms: rhythms.required(),
  nameEnds: maybe,
  createdAt: time,
  archivedAt: maybeTime,
  version: count,
};

export const property = Joi.object<Property, true>(propertyKeys).id('Property');

export const newProperty = Joi.object<NewProperty, true>({
  ...propertyKeys,
  notes: list(Joi.string()),
  job: id,
}).id('NewProperty');

/** What is told of a site at registration, by the fact's identifier. */
export const factAnswers = Joi.object()
  .pattern(/^[a-z][a-z0-9-]{1,30}$/, Joi.string().trim().max(200))
  .max(20);
