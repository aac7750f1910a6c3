import { fillSentence, type CatalogueEntry, type EvidenceValue, type Finding } from './finding.js';

/**
 * Every finding that the product can make: one row, one code, named by area.
 * `{name}` in a sentence is filled from the finding's evidence. Remedies are written for the client's developer.
 */
export const CATALOGUE = {
  'reach.name-missing': {
    grade: 'stops',
    says: 'The name {host} does not exist in the DNS.',
    remedy: 'Please check that the domain {host} is registered and that its name servers answer for it.',
  },
  'reach.no-address': {
    grade: 'stops',
    says: 'The name {host} exists but has no A or AAAA record.',
    remedy: 'Please add an A or AAAA record for {host} that points to the web server.',
  },
  'reach.resolver-fails': {
    grade: 'stops',
    open: true,
    says: 'The address of {host} could not be looked up: {detail}.',
    remedy: 'Please check the name servers of {host}; they did not answer a plain look-up.',
  },
  'reach.refused': {
    grade: 'stops',
    says: 'The server at {address} refused the connection for {url}.',
    remedy: 'Please make the web server at {address} answer for {url}; it refuses connections.',
  },
  'reach.unreachable': {
    grade: 'stops',
    open: true,
    says: 'No way was found to {address} for {url}: {detail}.',
    remedy: 'Please check that the server at {address} can be reached from the internet.',
  },
  'reach.timed-out': {
    grade: 'stops',
    open: true,
    says: '{url} did not answer in time ({ms} ms).',
    remedy: 'Please check why {url} does not answer; engines give up after a few seconds.',
  },
  'reach.cut': {
    grade: 'stops',
    open: true,
    says: 'The connection for {url} was cut before the answer was whole.',
    remedy: 'Please check why the web server ends the connection for {url} early.',
  },
  'reach.guarded': {
    grade: 'stops',
    open: true,
    says: '{url} leads to {address}, a private or local address, which is not fetched.',
    remedy: 'Please let {host} point to a public address; {address} cannot be reached from the internet.',
  },
  'reach.tls-expired': {
    grade: 'stops',
    says: 'The certificate of {host} has expired: {detail}.',
    remedy: 'Please renew the certificate of {host}.',
  },
  'reach.tls-name': {
    grade: 'stops',
    says: 'The certificate shown for {host} is for another name: {detail}.',
    remedy: 'Please install a certificate that names {host}.',
  },
  'reach.tls-untrusted': {
    grade: 'stops',
    says: 'The certificate of {host} is not signed by a known authority, or its chain is incomplete: {detail}.',
    remedy: 'Please install a certificate of a public authority for {host}, with its whole chain.',
  },
  'reach.tls-failed': {
    grade: 'stops',
    says: 'No secure connection to {host} came about: {detail}.',
    remedy: 'Please check the HTTPS settings of {host}.',
  },
  'reach.not-http': {
    grade: 'stops',
    says: 'What answered at {url} does not speak HTTP: {detail}.',
    remedy: 'Please check which program answers at {url}; it should be the web server.',
  },
  'reach.headers-too-large': {
    grade: 'stops',
    says: 'The headers of {url} are larger than any engine would read.',
    remedy: 'Please check why {url} sends such large headers (often cookies that pile up).',
  },
  'reach.loop': {
    grade: 'stops',
    says: 'The redirects from {start} lead back to {url}.',
    remedy: 'Please mend the redirects: {start} leads round in a circle by way of {url}.',
  },
  'reach.too-many-hops': {
    grade: 'stops',
    says: '{start} redirects more than {limit} times.',
    remedy: 'Please let {start} redirect straight to the page where it ends.',
  },
  'reach.redirected': {
    grade: 'stops',
    says: '{url} redirects to {location}, and the engine follows no redirects here.',
    remedy: 'Please let {url} answer by itself, without a redirect.',
  },
  'reach.off-host': {
    grade: 'stops',
    says: '{url} redirects to {location}, another host, where the engine does not follow.',
    remedy: 'Please let {url} answer by itself, or tell us if visitors are meant to end up at {location}.',
  },
  'reach.off-domain': {
    grade: 'stops',
    says: '{url} redirects to {location}, another domain, where the engine does not follow.',
    remedy: 'Please let {url} answer by itself, or tell us if the website has moved to {location}.',
  },
  'reach.downgrade': {
    grade: 'harms',
    says: '{url} redirects from https to {location} without it.',
    remedy: 'Please let {url} stay on https.',
  },
  'reach.denied': {
    grade: 'stops',
    says: '{url} answers {status}: visitors without a sign-in, engines among them, are kept out.',
    remedy: 'Please let {url} be read without a sign-in, and let search engines pass the firewall.',
  },
  'reach.gone': {
    grade: 'stops',
    says: 'The page {url} does not exist (status {status}).',
    remedy: 'Please make {url} answer with the website’s page; it answers {status}.',
  },
  'reach.rate-limited': {
    grade: 'stops',
    open: true,
    says: '{url} answers 429: it wants fewer requests.',
    remedy: 'Please allow search engines more requests; {url} answered 429.',
  },
  'reach.server-error': {
    grade: 'stops',
    says: '{url} answers {status}: the server has an error of its own.',
    remedy: 'Please look into the server’s error log: {url} answers {status}.',
  },
  'reach.odd-status': {
    grade: 'stops',
    says: '{url} answers {status}, which is not a page.',
    remedy: 'Please make {url} answer 200 with the page.',
  },
  'reach.too-large': {
    grade: 'harms',
    says: 'Only the first {bytes} bytes of {url} were read; the page is larger.',
    remedy: 'Please make the page {url} smaller; engines stop reading large pages early.',
  },
  'reach.empty': {
    grade: 'stops',
    says: '{url} answers 200 with nothing in it.',
    remedy: 'Please check why {url} is empty.',
  },
  'meta.stands': { grade: 'note', says: 'The tag stands in the head of {url}, line {line}.', remedy: '' },
  'meta.not-html': {
    grade: 'stops',
    says: '{url} is {mediaType}, not an HTML page, so it cannot hold a meta tag.',
    remedy: 'Please make {url} an HTML page with {tag} in its head.',
  },
  'meta.absent': {
    grade: 'stops',
    says: 'No meta tag named {name} is on {url} (other meta tags there: {tags}).',
    remedy: 'Please put {tag} into the head of {url}, then empty the page cache.',
  },
  'meta.in-body': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but in the body: engines read it only in the head.',
    remedy: 'Please move {tag} from line {line} up into the head of {url}, before <body>.',
  },
  'meta.other-value': {
    grade: 'stops',
    says: 'The tag {name} on {url}, line {line}, says “{found}” in place of “{content}”.',
    remedy: 'Please replace the tag {name} on {url} by {tag}; it holds “{found}” now.',
  },
  'meta.repeated': {
    grade: 'harms',
    says: 'The tag {name} is on {url} {times} times, with different values; one is right.',
    remedy: 'Please keep only {tag} on {url} and take the other tags named {name} out.',
  },
  'file.stands': { grade: 'note', says: 'The file stands at {url} with the right content.', remedy: '' },
  'file.missing': {
    grade: 'stops',
    says: 'There is no file at {url} (status {status}).',
    remedy: 'Please upload the file {fileName} to the website, so that {url} shows it.',
  },
  'file.page-instead': {
    grade: 'stops',
    says: '{url} answers 200, but with an HTML page in place of the file.',
    remedy: 'Please upload {fileName} as a plain file; {url} shows a page of the website now.',
  },
  'file.other-content': {
    grade: 'stops',
    says: 'The file at {url} says “{found}” in place of “{content}”.',
    remedy: 'Please upload {fileName} again with exactly this content: {content}',
  },
  'file.not-exact': {
    grade: 'stops',
    says: 'The file at {url} has the right words, but {found} bytes in place of {bytes}; the engine compares every byte.',
    remedy:
      'Please upload {fileName} unchanged: {bytes} bytes, no line break at the end, no byte order mark.',
  },
  'dns.stands': { grade: 'note', says: 'The TXT record stands at {name}.', remedy: '' },
  'dns.no-name': {
    grade: 'stops',
    says: 'The name {name} does not exist in the DNS, so it has no TXT record.',
    remedy: 'Please add to the zone {zone}: name {recordName}, type TXT, value {value}',
  },
  'dns.no-record': {
    grade: 'stops',
    says: 'There is no TXT record at {name}.',
    remedy: 'Please add to the zone {zone}: name {recordName}, type TXT, value {value}',
  },
  'dns.absent': {
    grade: 'stops',
    says: 'No TXT record at {name} is ours (others there: {records}).',
    remedy:
      'Please add one more TXT record to the zone {zone}, and keep the others: name {recordName}, value {value}',
  },
  'dns.other-value': {
    grade: 'stops',
    says: 'The TXT record at {name} says “{found}” in place of “{value}”.',
    remedy: 'Please change the TXT record {recordName} in the zone {zone} to {value}',
  },
  'dns.server-fails': {
    grade: 'stops',
    open: true,
    says: 'The DNS answers {rcode} for {name}.',
    remedy: 'Please check the name servers of {zone}: they answer {rcode} for {name}.',
  },
  'dns.no-answer': {
    grade: 'stops',
    open: true,
    says: 'The DNS gave no answer for {name} ({failure}).',
    remedy: 'Please check that the name servers of {zone} can be reached.',
  },
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

export type FindingCode = keyof typeof CATALOGUE;

/**
 * Makes a finding by its code.
 * @param values the evidence; it also fills the sentences
 */
export function finding(code: FindingCode, values: Readonly<Record<string, EvidenceValue>> = {}): Finding {
  const entry: CatalogueEntry = CATALOGUE[code];
  return {
    code,
    grade: entry.grade,
    says: fillSentence(entry.says, values),
    evidence: values,
    remedy: fillSentence(entry.remedy, values),
  };
}

/** Whether a finding leaves open what an engine would see (a passing trouble, or a limit of our own). */
export function isOpen(code: string): boolean {
  return isKnown(code) && (CATALOGUE[code] as CatalogueEntry).open === true;
}

function isKnown(code: string): code is FindingCode {
  return Object.hasOwn(CATALOGUE, code);
}
