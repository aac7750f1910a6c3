import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { items, mailText, nameText, oneOf, page, pageQuery, refParams, refText } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { lettersRoutes } from './routes.js';
import { contact, contactRole, letter, letterDraft } from './schema.js';

const whom = {
  property: refText,
  client: refText,
  contacts: Joi.array().items(refText).min(1).max(20),
  enrolments: Joi.array().items(refText).min(1).max(200),
  alerts: Joi.array().items(refText).min(1).max(50),
};

/** What the routes take and answer. */
export const lettersRequests = {
  listContacts: {
    query: Joi.object<QueryOf<typeof lettersRoutes.listContacts>, true>({
      client: refText,
      property: refText,
    }),
    answer: items(contact),
  },
  addContact: {
    body: Joi.object<BodyOf<typeof lettersRoutes.addContact>, true>({
      client: refText,
      property: refText,
      name: nameText.required().label('the contact’s name'),
      role: contactRole.required().label('the contact’s role'),
      email: mailText,
      language: oneOf(SHEET_LANGUAGES),
    }).xor('client', 'property'),
    answer: contact,
  },
  endContact: { params: refParams('id') },
  draftLetters: {
    body: Joi.object<BodyOf<typeof lettersRoutes.draftLetters>, true>(whom).xor('property', 'client'),
    answer: items(letterDraft),
  },
  writeLetters: {
    body: Joi.object<BodyOf<typeof lettersRoutes.writeLetters>, true>({
      ...whom,
      way: oneOf(['mail', 'copied'] as const).required(),
      link: Joi.boolean(),
      subject: Joi.string()
        .trim()
        .min(1)
        .max(200)
        .pattern(/^\P{Cc}*$/u, 'one line'),
      text: Joi.string().min(1).max(20_000).label('the text of the letter'),
    }).xor('property', 'client'),
    answer: items(letter),
  },
  listLetters: {
    query: Joi.object<QueryOf<typeof lettersRoutes.listLetters>, true>({
      ...pageQuery,
      client: refText,
      property: refText,
      open: Joi.boolean(),
    }),
    answer: page(letter),
  },
  showLetter: { params: refParams('id'), answer: letter },
  answerLetter: {
    params: refParams('id'),
    body: Joi.object<BodyOf<typeof lettersRoutes.answerLetter>, true>({
      says: Joi.string().trim().min(1).max(2_000).required().label('the answer'),
    }),
    answer: letter,
  },
} satisfies Record<string, RouteSchemas>;
