import type { CatalogueEntry } from '../finding.js';

/** What shows on the way while a sitemap is made. */
export const MAKING = {
  'making.nothing': {
    grade: 'stops',
    says: 'No page of {door} was found that may go into a sitemap.',
    remedy:
      'Please let {door} answer with a page that engines may show; without one there is nothing to list.',
  },
  'making.kept-out': {
    grade: 'stops',
    says: 'Nothing of {door} was gone to: {detail}.',
    remedy:
      'Please let the robots.txt of {door} answer, by its rules or by 404, and let it keep nobody from pages that are meant to be found.',
  },
  'making.dead-ends': {
    grade: 'harms',
    says: 'Links of the website lead to nothing: {count}, such as {first}, linked from {from}.',
    remedy: 'Please mend or take out the links that lead to nothing: {count}, such as {first} on {from}.',
  },
  'making.refused': {
    grade: 'harms',
    says: 'Pages that the website links to do not answer as pages should: {count}, such as {first} ({detail}).',
    remedy:
      'Please let these pages answer, or take out the links to them: {count}, such as {first} ({detail}).',
  },
  'making.redirects': {
    grade: 'note',
    says: 'Links of the website lead on to other addresses: {count}, such as {first}, which leads to {detail}.',
    remedy: '',
  },
  'making.unlinked': {
    grade: 'harms',
    says: 'Pages that the website itself links to from nowhere, and only the old sitemap names: {count}, such as {first}.',
    remedy: 'Please link to these pages from the website, or let go of them: {count}, such as {first}.',
  },
  'making.doubles': {
    grade: 'harms',
    says: 'The same page stands at two addresses: {count}, such as {first}. One of each went in.',
    remedy: 'Please let one of the two addresses lead to the other for good (301): {count}, such as {first}.',
  },
  'making.variants': {
    grade: 'note',
    says: 'Links of the website lead to {what} in place of the front door: {count}, such as {first}.',
    remedy: '',
  },
  'making.sessions': {
    grade: 'harms',
    says: 'Links carry a session in “{what}”, so that every page has addresses without end; it was taken off: {count}, such as {first}.',
    remedy: 'Please take “{what}” out of the addresses of the website: engines see each as another page.',
  },
  'making.idle': {
    grade: 'harms',
    says: '“{what}” in addresses makes no difference to what is shown; it was taken off: {count}, such as {first}.',
    remedy:
      'Please take “{what}” out of the links of the website, or give such pages a canonical link without it.',
  },
  'making.endless': {
    grade: 'harms',
    says: 'Pages of the shape {what} lead to one another without end, as a calendar does; after sixty the rest was left out: {count}, such as {first}.',
    remedy:
      'Please keep engines from following {what} without end: with “nofollow” on such links, or in the robots.txt.',
  },
  'making.parameters': {
    grade: 'harms',
    says: 'The page {what} has hundreds of addresses by its parameters; the rest was left out: {count}, such as {first}.',
    remedy:
      'Please give the pages of {what} a canonical link, so that engines need not read hundreds of the same.',
  },
  'making.repeating': {
    grade: 'harms',
    says: 'Links go round in themselves, and repeat “{detail}” in their path: {count}, such as {first}, linked from {from}.',
    remedy: 'Please mend the relative links on {from}: they repeat “{detail}” in the path.',
  },
  'making.bounded': {
    grade: 'note',
    says: 'The gathering ended at its bound of {limit} {what}: {waiting} addresses were not looked at.',
    remedy: '',
  },
  'making.many-links': {
    grade: 'note',
    says: 'Pages have more links than anybody reads: {count}, such as {first}. The first ten thousand were followed.',
    remedy: '',
  },
  'making.dates-alike': {
    grade: 'note',
    says: 'All {count} dates were the same ({date}), which says nothing: none was written.',
    remedy: '',
  },
} as const satisfies Record<string, CatalogueEntry>;
