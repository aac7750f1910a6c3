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
  'sitemap.other-host': {
    grade: 'harms',
    says: '{count} addresses in {url} are on another host, first {first} on line {line}.',
    remedy: 'Please list in {url} only addresses below {folder}; {count} are on another host, first {first}.',
  },
  'sitemap.other-scheme': {
    grade: 'harms',
    says: '{count} addresses in {url} have another scheme than the sitemap, first {first} on line {line}.',
    remedy: 'Please let the addresses in {url} begin with {folder}; {count} do not, first {first}.',
  },
  'sitemap.child-elsewhere': {
    grade: 'harms',
    says: '{count} sitemaps of the index {url} are on another host, first {first} on line {line}.',
    remedy:
      'Please let the index {url} name only sitemaps below {folder}; {count} are elsewhere, first {first}.',
  },
  'sitemap.relative': {
    grade: 'harms',
    says: '{count} entries in {url} are no whole addresses, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please write whole addresses in {url}, with https:// and host; {count} lack them, first “{first}”.',
  },
  'sitemap.not-an-address': {
    grade: 'harms',
    says: '{count} entries in {url} cannot be read as addresses, first “{first}” on line {line}, column {column}.',
    remedy: 'Please mend the {count} entries of {url} that are no addresses, first “{first}” on line {line}.',
  },
  'sitemap.unescaped': {
    grade: 'harms',
    says: '{count} addresses in {url} hold characters that must be escaped, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please escape the addresses in {url} (RFC 3986: spaces, accents and quotes as %20 and so on); {count} are not, first “{first}”.',
  },
  'sitemap.too-long': {
    grade: 'harms',
    says: '{count} addresses in {url} are longer than 2,047 characters, first on line {line}: {first}',
    remedy:
      'Please take addresses of more than 2,047 characters out of {url}; {count} are, first on line {line}.',
  },
  'sitemap.no-location': {
    grade: 'harms',
    says: '{count} entries in {url} have no address, first on line {line}, column {column}.',
    remedy: 'Please give every entry of {url} its address; {count} have none, first on line {line}.',
  },
  'sitemap.twice': {
    grade: 'harms',
    says: '{count} addresses stand in {url} more than once, first {first} on line {line}.',
    remedy: 'Please list each address once in {url}; {count} stand there again, first {first}.',
  },
  'sitemap.in-two': {
    grade: 'harms',
    says: '{count} addresses in {url} stand in another sitemap of the same index as well, first {first} on line {line}.',
    remedy:
      'Please list each address in one sitemap only; {count} of {url} stand in another as well, first {first}.',
  },
  'sitemap.forbidden-addresses': {
    grade: 'harms',
    says: '{count} addresses in {url} are forbidden to {whom} by {robots}, first {first}: “{rule}” on its line {rule_line}.',
    remedy:
      'Please take {count} addresses out of {url}, or let {robots} allow them: “{rule}” on its line {rule_line} forbids them, first {first}.',
  },
  'sitemap.not-at-door': {
    grade: 'harms',
    says: '{count} addresses in {url} do not begin with the front door {door}, first {first} on line {line}.',
    remedy:
      'Please let the addresses in {url} begin with {door}, where the website lives; {count} do not, first {first}.',
  },
  'sitemap.other-host-allowed': {
    grade: 'note',
    says: '{count} addresses in {url} are on {hosts}, whose robots.txt names the sitemap: so it may list them.',
    remedy: '',
  },
  'sitemap.pages-fail': {
    grade: 'harms',
    says: '{count} of {asked} pages of {url} that were tried do not answer, first {first}: {reason}',
    remedy:
      'Please take pages that do not answer out of {url}, or mend them: of {asked} that were tried {count} fail, first {first} ({reason})',
  },
  'sitemap.pages-lead': {
    grade: 'harms',
    says: '{count} of {asked} pages of {url} that were tried lead elsewhere, first {first}, which leads to {to}.',
    remedy:
      'Please list in {url} where pages are, not what leads there: of {asked} that were tried {count} lead elsewhere, first {first} to {to}.',
  },
  'sitemap.pages-stay-away': {
    grade: 'harms',
    says: '{count} of {asked} pages of {url} that were tried ask engines to stay away, first {first}: {found}',
    remedy:
      'Please take pages that ask engines to stay away out of {url}, or take that mark off them: of {asked} that were tried {count} have it, first {first} ({found}).',
  },
  'sitemap.pages-canonical': {
    grade: 'harms',
    says: '{count} of {asked} pages of {url} that were tried name another address as the canonical one, first {first}, which names {to}.',
    remedy:
      'Please list in {url} the addresses that the pages name as canonical: of {asked} that were tried {count} name another, first {first} names {to}.',
  },
  'sitemap.bad-date': {
    grade: 'harms',
    says: '{count} dates in {url} are not in the form that the protocol asks for, first “{first}” on line {line}, column {column}.',
    remedy:
      'Please write the dates in {url} as 2026-11-25 or 2026-11-25T08:00:00+01:00; {count} are not, first “{first}”.',
  },
  'sitemap.future-date': {
    grade: 'harms',
    says: '{count} dates in {url} lie in the future, first {first} on line {line}.',
    remedy:
      'Please let the dates in {url} say when a page changed; {count} lie in the future, first {first}.',
  },
  'sitemap.dates-alike': {
    grade: 'note',
    says: 'All {count} dates in {url} are the same, {date}: engines learn nothing from them.',
    remedy: '',
  },
  'sitemap.bad-priority': {
    grade: 'note',
    says: '{count} priorities in {url} are not between 0.0 and 1.0, first “{first}” on line {line}.',
    remedy: '',
  },
  'sitemap.bad-frequency': {
    grade: 'note',
    says: '{count} change frequencies in {url} are none of the protocol’s words, first “{first}” on line {line}.',
    remedy: '',
  },
  'sitemap.fell': {
    grade: 'harms',
    says: '{url} lists {after} addresses; at the reading before, {since} UTC, it listed {before}.',
    remedy: 'Please check why {url} lists only {after} addresses: on {since} there were {before}.',
  },
  'sitemap.stands-still': {
    grade: 'note',
    says: 'The newest date in {url} is {newest}, {days} days ago.',
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
    grade: 'stops',
    says: '{url} declares entities of its own, which nobody expands.',
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
