import type { Migration } from '../ground/ground.js';

/** What the pages of one property and the yard look up is found by an index, whatever the agency's size. */
export const foundByIndex: Migration = {
  name: '0037-found-by-index',
  up: [
    'CREATE INDEX tokens_replaced ON tokens (enrolmentId, replacedAt) WHERE replacedAt IS NOT NULL',
    'CREATE INDEX submissions_withdrawn ON submissions (sitemapId) WHERE withdrawnAt IS NOT NULL',
    `ALTER TABLE yard_rows ADD COLUMN engines TEXT NOT NULL DEFAULT ''`,
  ],
};
