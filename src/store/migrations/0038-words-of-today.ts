import { JOURNAL_UNCHANGED } from '../ground/staleness.js';
import type { Migration } from '../ground/ground.js';

/** Kinds of what the journal holds, before and since. */
const JOURNAL_KINDS: Readonly<Record<string, string>> = {
  'hook.added': 'webhook.added',
  'hook.ended': 'webhook.ended',
  'telling.changed': 'recipient.changed',
  'message.retried': 'notification.retried',
  carry: 'publish',
  'carry.place': 'publish.target',
  'carry.other-key': 'publish.other-key',
};

const renamed = (table: string, from: string, to: string) =>
  `UPDATE ${table} SET kind = '${to}' WHERE kind = '${from}'`;

/**
 * What was called carry, hook, telling and looking inside has the names that people meet now, in what is on record too. The journal
 * says what it said: only the names of its kinds are others, and it is append-only again when they are.
 */
export const wordsOfToday: Migration = {
  name: '0038-words-of-today',
  up: [
    'DROP TRIGGER journal_unchanged',
    ...Object.entries(JOURNAL_KINDS).map(([from, to]) => renamed('journal', from, to)),
    JOURNAL_UNCHANGED,
    renamed('jobs', 'carry', 'publish'),
    renamed('jobs', 'look-inside', 'read-contents'),
    renamed('step_marks', 'carry', 'publish'),
    `UPDATE job_items SET result = json_remove(json_set(result, '$.publication', json_remove(json_set(json_extract(result, '$.carrying'),
        '$.target', json_extract(result, '$.carrying.place')), '$.place')), '$.carrying')
      WHERE json_valid(result) AND json_extract(result, '$.carrying') IS NOT NULL`,
  ],
};
