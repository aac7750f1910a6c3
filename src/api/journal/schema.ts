import Joi from 'joi';
import { count, id, maybe, time } from '../parts/schema.js';
import type { JournalEntry } from './document.js';

export const journalEntry = Joi.object<JournalEntry, true>({
  seq: count,
  at: time,
  who: maybe,
  kind: id,
  client: maybe,
  property: maybe,
  says: id,
  details: Joi.object().allow(null).required(),
}).id('JournalEntry');
