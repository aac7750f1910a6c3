import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { WORDING_PARTS } from '../../core/wording/wording.js';
import { flag, id, items, list, oneOf, refText, text } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { Sentence, SentenceInput, WordingPreview } from './document.js';
import type { wordingRoutes } from './routes.js';

const sentence = Joi.object<Sentence, true>({
  language: oneOf(SHEET_LANGUAGES).required(),
  part: oneOf(WORDING_PARTS).required(),
  name: id,
  says: text,
  usual: text,
  isOwn: flag,
}).id('Sentence');

const input = {
  language: oneOf(SHEET_LANGUAGES).required(),
  part: oneOf(WORDING_PARTS).required(),
  name: Joi.string().max(60).required().label('the name of the sentence'),
  says: Joi.string().max(5_000).allow(null, '').required().label('the sentence'),
};

/** What the routes take and answer. */
export const wordingRequests = {
  listWording: {
    query: Joi.object<QueryOf<typeof wordingRoutes.listWording>, true>({
      language: oneOf(SHEET_LANGUAGES),
      part: oneOf(WORDING_PARTS),
    }),
    answer: items(sentence),
  },
  editWording: { body: Joi.object<SentenceInput, true>(input), answer: sentence },
  previewWording: {
    body: Joi.object<BodyOf<typeof wordingRoutes.previewWording>, true>({
      ...input,
      property: refText.required(),
    }),
    answer: Joi.object<WordingPreview, true>({
      sheet: text,
      letters: list(Joi.object<WordingPreview['letters'][number], true>({ subject: id, text })),
    }).id('WordingPreview'),
  },
} satisfies Record<string, RouteSchemas>;
