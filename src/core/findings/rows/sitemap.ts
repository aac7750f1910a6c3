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
  'sitemap.misdeclared': {
    grade: 'harms',
    says: '{url} says that it is in {declared}, which its bytes cannot be: strict readers refuse it.',
    remedy: 'Please let {url} say that it is in UTF-8, and save it so; now it says {declared}.',
  },
  'sitemap.wrong-root': {
    grade: 'stops',
    says: '{url} begins with <{root}>; a sitemap begins with <urlset>, <sitemapindex>, <rss> or <feed>.',
    remedy: 'Please make {url} a sitemap by the sitemaps.org protocol; it begins with <{root}>.',
  },
  'sitemap.wrong-namespace': {
    grade: 'harms',
    says: 'The namespace of {url} is “{found}” in place of “{wanted}”.',
    remedy: 'Please set the namespace of {url} to {wanted}',
  },
  'sitemap.empty': {
    grade: 'stops',
    says: '{url} holds no address.',
    remedy: 'Please check why the sitemap {url} is empty.',
  },
  'sitemap.too-deep': {
    grade: 'stops',
    says: '{url} nests elements more than {limit} deep, or gives one hundreds of attributes (line {line}): no engine reads that as a sitemap.',
    remedy:
      'Please make {url} a sitemap as the protocol has it; this one was written by a machine that ran wild.',
  },
  'sitemap.too-heavy': {
    grade: 'stops',
    open: true,
    says: '{url} could not be read to its end: it took more {what} than any sitemap should. That is a bound of ours; an engine may have another.',
    remedy:
      'Please have a look at what {url} answers: it is far larger or stranger than a sitemap needs to be.',
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
    says: 'Sitemaps of the index {url} that cannot be read: {count} of {children}, first {child}.',
    remedy: 'Please mend the sitemaps in {url} that cannot be read, first {child}.',
  },
  'sitemap.nested-index': {
    grade: 'harms',
    says: '{child} in the index {url} is an index itself, which the protocol does not allow.',
    remedy: 'Please list the sitemaps of {child} in {url} directly.',
  },
  'sitemap.outside': {
    grade: 'harms',
    says: '{url} lists what is not below {folder}: {count} in all, first {first} on line {line}.',
    remedy: 'Please list in {url} only addresses below {folder}. Elsewhere: {count}, first {first}.',
  },
  'sitemap.feed-outside': {
    grade: 'note',
    says: '{url} is a feed, and has addresses that are not below {folder}: {count} in all, first {first} on line {line}. The protocol binds sitemaps to their folder, and says nothing of feeds: what an engine makes of it, only that engine can tell.',
    remedy: '',
  },
  'sitemap.other-host': {
    grade: 'harms',
    says: '{url} lists what is on another host: {count} in all, first {first} on line {line}.',
    remedy: 'Please list in {url} only addresses below {folder}. On another host: {count}, first {first}.',
  },
  'sitemap.other-scheme': {
    grade: 'harms',
    says: '{url} lists addresses of another scheme than its own: {count} in all, first {first} on line {line}.',
    remedy: 'Please let all addresses in {url} begin with {folder}. Not so: {count}, first {first}.',
  },
  'sitemap.child-elsewhere': {
    grade: 'harms',
    says: 'The index {url} names sitemaps on another host: {count} in all, first {first} on line {line}.',
    remedy:
      'Please let the index {url} name only sitemaps below {folder}. Elsewhere: {count}, first {first}.',
  },
  'sitemap.relative': {
    grade: 'harms',
    says: '{url} has entries that are no whole addresses: {count} in all, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please write whole addresses in {url}, with https:// and host. Not so: {count}, first “{first}”.',
  },
  'sitemap.not-an-address': {
    grade: 'harms',
    says: '{url} has entries that cannot be read as addresses: {count} in all, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please mend the entries of {url} that are no addresses: {count} in all, first “{first}” on line {line}.',
  },
  'sitemap.unescaped': {
    grade: 'harms',
    says: '{url} lists addresses with characters that must be escaped: {count} in all, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please escape the addresses in {url} (RFC 3986: spaces, accents and quotes as %20 and so on). Not so: {count}, first “{first}”.',
  },
  'sitemap.too-long': {
    grade: 'harms',
    says: '{url} lists addresses longer than 2,047 characters: {count} in all, first on line {line}: {first}',
    remedy:
      'Please take addresses of more than 2,047 characters out of {url}: {count} in all, first on line {line}.',
  },
  'sitemap.no-location': {
    grade: 'harms',
    says: '{url} has entries without an address: {count} in all, first on line {line}, column {column}.',
    remedy: 'Please give every entry of {url} its address. Without one: {count}, first on line {line}.',
  },
  'sitemap.twice': {
    grade: 'harms',
    says: '{url} lists addresses again that it has already: {count} in all, first {first} on line {line}.',
    remedy: 'Please list each address once in {url}. Again: {count}, first {first}.',
  },
  'sitemap.in-two': {
    grade: 'harms',
    says: '{url} lists what another sitemap of the same index has as well: {count} in all, first {first} on line {line}.',
    remedy: 'Please list each address in one sitemap only. In {url} and in another: {count}, first {first}.',
  },
  'sitemap.not-all-read': {
    grade: 'note',
    says: 'Reading the index {url} took too long: of its {children} sitemaps so many were not asked for: {unread}.',
    remedy: '',
  },
  'sitemap.many-addresses': {
    grade: 'note',
    says: '{url} has more addresses than are held against one another: the first {compared} are.',
    remedy: '',
  },
  'sitemap.forbidden-addresses': {
    grade: 'harms',
    says: '{url} lists what {robots} forbids to {whom}: {count} in all, first {first}, by “{rule}” on its line {rule_line}.',
    remedy:
      'Please take out of {url} what {robots} forbids, or let it be allowed there: {count} in all, first {first}, by “{rule}” on its line {rule_line}.',
  },
  'sitemap.not-at-door': {
    grade: 'harms',
    says: '{url} lists addresses of another variant than the front door {door}: {count} in all, first {first} on line {line}.',
    remedy:
      'Please let all addresses in {url} begin with {door}, where the website lives. Not so: {count}, first {first}.',
  },
  'sitemap.other-host-allowed': {
    grade: 'note',
    says: '{url} may list what is on {hosts}, since the robots.txt there names it: {count} in all.',
    remedy: '',
  },
  'sitemap.pages-fail': {
    grade: 'harms',
    says: 'Pages of {url} that cannot be had: {count} of the {asked} tried, first {first}: {reason}.',
    remedy:
      'Please take pages that do not answer out of {url}, or mend them. Of {asked} that were tried: {count}, first {first} ({reason}).',
  },
  'sitemap.pages-lead': {
    grade: 'harms',
    says: 'Pages of {url} that lead elsewhere: {count} of the {asked} tried, first {first} to {to}.',
    remedy:
      'Please list in {url} where pages are, not what leads there. Of {asked} that were tried: {count}, first {first}, which leads to {to}.',
  },
  'sitemap.pages-stay-away': {
    grade: 'harms',
    says: 'Pages of {url} that ask engines to stay away: {count} of the {asked} tried, first {first}: {found}.',
    remedy:
      'Please take pages that ask engines to stay away out of {url}, or take that mark off them. Of {asked} that were tried: {count}, first {first} ({found}).',
  },
  'sitemap.pages-canonical': {
    grade: 'harms',
    says: 'Pages of {url} that name another address as the canonical one: {count} of the {asked} tried, first {first}, which names {to}.',
    remedy:
      'Please list in {url} the addresses that the pages name as canonical. Of {asked} that were tried, other ones: {count}, first {first}, which names {to}.',
  },
  'sitemap.bad-date': {
    grade: 'harms',
    says: '{url} has dates that are not in the form that the protocol asks for: {count} in all, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please write the dates in {url} as 2026-11-25 or 2026-11-25T08:00:00+01:00. Not so: {count}, first “{first}”.',
  },
  'sitemap.future-date': {
    grade: 'harms',
    says: '{url} has dates that lie in the future: {count} in all, first {first} on line {line}.',
    remedy: 'Please let the dates in {url} say when a page changed. In the future: {count}, first {first}.',
  },
  'sitemap.dates-alike': {
    grade: 'note',
    says: 'All {count} dates in {url} are the same, {date}: engines learn nothing from them.',
    remedy: '',
  },
  'sitemap.bad-priority': {
    grade: 'note',
    says: '{url} has priorities that are not between 0.0 and 1.0: {count} in all, first “{first}” on line {line}.',
    remedy: '',
  },
  'sitemap.bad-frequency': {
    grade: 'note',
    says: '{url} has change frequencies that are none of the protocol’s words: {count} in all, first “{first}” on line {line}.',
    remedy: '',
  },
  'sitemap.fell': {
    grade: 'harms',
    says: '{url} lists fewer addresses than before: {after}, after {before} at the reading of {since} UTC.',
    remedy:
      'Please check why {url} lists fewer addresses than before: {after}, after {before} on {since} UTC.',
  },
  'sitemap.stands-still': {
    grade: 'note',
    says: 'The newest date in {url} is {newest}, {days} days ago or more.',
    remedy: '',
  },
  'sitemap.robots-forbids': {
    grade: 'stops',
    says: '{robots} forbids {whom} to fetch {url}: “{found}” on line {line}.',
    remedy: 'Please let {robots} allow {url}; “{found}” on line {line} forbids it.',
  },
  'sitemap.not-named': {
    grade: 'note',
    says: '{url} is not named in {robots}.',
    remedy: '',
  },
  'sitemap.entities': {
    grade: 'harms',
    says: '{url} declares entities of its own, which nobody expands: where they are used, they stand as they are written.',
    remedy: 'Please take the document type with its entities out of {url}.',
  },
  'sitemap.space-before': {
    grade: 'harms',
    says: '{url} begins with white space before its XML declaration: strict readers refuse it.',
    remedy: 'Please let {url} begin with <?xml at once; there is white space before it.',
  },
  'sitemap.not-a-sitemap': {
    grade: 'stops',
    says: '{url} is neither XML nor a list of addresses.',
    remedy: 'Please make {url} show the sitemap; what it shows is neither XML nor a list of addresses.',
  },
  'sitemap.gzip-broken': {
    grade: 'stops',
    says: '{url} is packed by gzip and cannot be unpacked: {detail}',
    remedy: 'Please pack {url} anew; it cannot be unpacked: {detail}',
  },
} as const satisfies Record<string, CatalogueEntry>;
