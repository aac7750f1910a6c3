import type { CatalogueEntry } from '../finding.js';

/** Reading a sitemap. */
export const SITEMAP = {
  'sitemap.not-reached': {
    grade: 'stops',
    says: 'The sitemap {url} could not be fetched: {reason}',
    remedy: 'Please make {url} answer; search engines cannot fetch it.',
  },
  'sitemap.page-instead': {
    grade: 'stops',
    says: '{url} is an HTML page, not a sitemap.',
    remedy: 'Please make {url} show the XML sitemap itself; it shows a page of the website.',
  },
  'sitemap.not-well-formed': {
    grade: 'stops',
    says: '{url} is not well-formed XML at line {line}, column {column}: {detail}',
    remedy: 'Please mend the sitemap {url} at line {line}, column {column}: {detail}',
  },
  'sitemap.wrong-root': {
    grade: 'stops',
    says: '{url} begins with <{root}>; a sitemap begins with <urlset> or <sitemapindex>.',
    remedy: 'Please make {url} a sitemap by the sitemaps.org protocol; it begins with <{root}>.',
  },
  'sitemap.wrong-namespace': {
    grade: 'harms',
    says: 'The namespace of {url} is “{found}”, not the one of the sitemaps.org protocol.',
    remedy: 'Please set the namespace of {url} to http://www.sitemaps.org/schemas/sitemap/0.9',
  },
  'sitemap.empty': {
    grade: 'stops',
    says: '{url} holds no address.',
    remedy: 'Please check why the sitemap {url} is empty.',
  },
  'sitemap.too-many': {
    grade: 'stops',
    says: '{url} holds more than {limit} addresses.',
    remedy: 'Please split the sitemap {url} into several of at most {limit} addresses, with an index.',
  },
  'sitemap.too-large': {
    grade: 'stops',
    says: '{url} is larger than {limit} bytes unpacked.',
    remedy: 'Please split the sitemap {url}: it may have at most {limit} bytes.',
  },
  'sitemap.child-fails': {
    grade: 'harms',
    says: '{count} of the {children} sitemaps in the index {url} cannot be read, first {child}.',
    remedy: 'Please mend or take out the sitemaps in {url} that cannot be read, first {child}.',
  },
  'sitemap.nested-index': {
    grade: 'harms',
    says: '{child} in the index {url} is an index itself, which the protocol does not allow.',
    remedy: 'Please list the sitemaps of {child} in {url} directly.',
  },
  'sitemap.outside': {
    grade: 'harms',
    says: '{count} addresses in {url} are not below {folder}, first {first} on line {line}.',
    remedy: 'Please list in {url} only addresses below {folder}; {count} are elsewhere, first {first}.',
  },
} as const satisfies Record<string, CatalogueEntry>;
