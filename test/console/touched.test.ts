import { expect, test } from 'vitest';
import { isTouched } from '../../src/console/touched.js';

/** Which of what a page shows is read again after a change: that which it may have touched, and nothing else. */
const shown = {
  yard: { queryKey: ['yard', { client: 'quay' }], state: {} },
  'next steps': { queryKey: ['worklist', {}], state: {} },
  sitemaps: { queryKey: ['sitemaps', { order: 'gap' }], state: {} },
  'sitemaps of ferries': { queryKey: ['sitemaps', 'ferries'], state: {} },
  'enrolments of ferries': { queryKey: ['enrolments', 'ferries'], state: {} },
  'page of ferries': { queryKey: ['property', 'saltmarsh'], state: { data: { id: 'ferries' } } },
  'page still to come': { queryKey: ['property', 'saltmarsh'], state: {} },
  'sitemap of ferries': { queryKey: ['sitemap', 's-1'], state: { data: { property: { id: 'ferries' } } } },
  'journal of ferries': { queryKey: ['journal', 'ferries'], state: {} },
  journal: { queryKey: ['journal', undefined], state: {} },
  clients: { queryKey: ['clients'], state: {} },
  engines: { queryKey: ['engines'], state: {} },
  rations: { queryKey: ['rations'], state: {} },
  session: { queryKey: ['session'], state: {} },
} as const;
const OF_MANY = ['yard', 'next steps', 'sitemaps'];
const OF_FERRIES = [
  'sitemaps of ferries',
  'enrolments of ferries',
  'page of ferries',
  'sitemap of ferries',
  'journal of ferries',
];

test.each<[string, string[], string[] | null, string[]]>([
  ['nothing that has a name', [], [], []],
  [
    'a check of ferries that says something new',
    ['check'],
    ['ferries'],
    [...OF_MANY, ...OF_FERRIES, 'journal'],
  ],
  [
    'what is derived of ferries',
    [],
    ['ferries'],
    [...OF_MANY, ...OF_FERRIES.filter((name) => !name.startsWith('journal'))],
  ],
  ['a check of clocks', ['check'], ['clocks'], [...OF_MANY, 'journal']],
  ['a client', ['client'], [], ['clients', 'journal']],
  ['an account', ['account'], [], ['engines', 'rations', 'journal']],
  ['a person', ['person'], [], ['session', 'journal']],
  ['a lookup of a page of clocks', ['page'], ['clocks'], [...OF_MANY, 'rations', 'journal']],
  ['how far a job is', ['job'], [], ['engines']],
  ['more than can be named', ['check'], null, [...OF_MANY, ...OF_FERRIES, 'page still to come', 'journal']],
])('%s', (_, kinds, properties, expected) => {
  const touched = Object.entries(shown).filter(([, query]) => isTouched(query, { kinds, properties }));
  expect(touched.map(([name]) => name).sort()).toEqual([...expected].sort());
});
