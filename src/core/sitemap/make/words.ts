import type { Choice } from './choose.js';
import type { PageKind } from './recipe.js';
import type { LeftOut } from './frontier.js';

/** Why addresses are left out, in words for people. */
export const LEFT_OUT_SAYS: Readonly<Record<LeftOut | Choice, string>> = {
  forbidden: 'kept from engines by the robots.txt',
  outside: 'outside of the property’s folder',
  'too-deep': 'more links from the front door than are followed',
  'too-long': 'longer than an address in a sitemap may be',
  endless: 'one more of a row without end, as of a calendar',
  repeating: 'an address that repeats itself',
  parameters: 'one more of hundreds by its parameters',
  'no-page': 'no page: an image, a style, an archive',
  gone: 'nothing is there (404, 410)',
  refused: 'does not answer with 200',
  'no-answer': 'does not answer',
  redirect: 'leads on to another address',
  'sent-on': 'sends its visitors on',
  'stays-away': 'asks engines to stay away',
  canonical: 'names another address as its own',
  double: 'the same as another address',
  'not-reached': 'was not looked at',
  'not-included': 'fits none of the patterns to include',
  excluded: 'fits a pattern to exclude',
  kind: 'of a kind that is left out',
  'by-hand': 'taken out by hand',
  'too-many': 'older than the newest that are wanted',
};

export const KIND_SAYS: Readonly<Record<PageKind, string>> = {
  front: 'front page',
  page: 'pages',
  article: 'articles',
  product: 'products',
  listing: 'lists of pages',
  'with-query': 'pages by parameters',
  document: 'documents',
};
