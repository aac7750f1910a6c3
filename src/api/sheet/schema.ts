import Joi from 'joi';
import { SHEET_LANGUAGES } from '../../core/sheet/sentences.js';
import { count, id, list, oneOf, text, time } from '../parts/schema.js';
import type { PlacementSheet } from './document.js';

export const placementSheet = Joi.object<PlacementSheet, true>({
  title: id,
  language: oneOf(SHEET_LANGUAGES).required(),
  at: time,
  open: count,
  done: count,
  markdown: text,
  text,
  html: text,
  missing: list(Joi.string()),
  files: list(Joi.object<PlacementSheet['files'][number], true>({ path: id, content: text, sha256: id })),
}).id('PlacementSheet');
