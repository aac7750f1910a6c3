import Joi from 'joi';
import { CONTACT_ROLES } from '../../core/letter/contact.js';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { id, list, maybe, maybeTime, oneOf, text, time } from '../parts/schema.js';
import type { Contact, Letter, LetterDraft } from './document.js';

export const contactRole = oneOf(CONTACT_ROLES);

export const contact = Joi.object<Contact, true>({
  id,
  client: id,
  property: maybe,
  name: id,
  role: contactRole.required(),
  email: maybe,
  language: oneOf(SHEET_LANGUAGES).required(),
  createdAt: time,
}).id('Contact');

export const letterDraft = Joi.object<LetterDraft, true>({
  contact: contact.required(),
  properties: list(Joi.string()),
  subject: id,
  text,
  before: maybeTime,
}).id('LetterDraft');

export const letter = Joi.object<Letter, true>({
  id,
  contact: id,
  role: contactRole.required(),
  client: id,
  properties: list(Joi.string()),
  way: oneOf(['mail', 'copied'] as const).required(),
  to: maybe,
  subject: id,
  text,
  state: oneOf(['sent', 'waiting', 'dead', 'copied'] as const).required(),
  at: time,
  by: maybe,
  answeredAt: maybeTime,
  answer: maybe,
}).id('Letter');
