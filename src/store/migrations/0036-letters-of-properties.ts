import type { Migration } from '../ground/ground.js';

/** The properties of a letter are found by it. What a look at a placement brought lies in `evidence`, and nowhere else. */
export const lettersOfProperties: Migration = {
  name: '0036-letters-of-properties',
  up: [
    'CREATE INDEX letter_properties_letter ON letter_properties (letterId)',
    'ALTER TABLE checks DROP COLUMN evidence',
  ],
};
