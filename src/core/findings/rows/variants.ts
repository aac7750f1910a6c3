import type { CatalogueEntry } from '../finding.js';

/** The addresses by which a property answers, and which of them its enrolments cover. */
export const VARIANTS = {
  'variants.all-dark': {
    grade: 'stops',
    says: 'No variant of {url} can be opened ({detail}).',
    remedy: 'Please make the website work: none of its addresses can be opened, first {url} ({detail}).',
  },
  'variants.door-dark': {
    grade: 'stops',
    says: 'The front door {url} cannot be opened ({detail}).',
    remedy: 'Please make {url} work again: it cannot be opened ({detail}).',
  },
  'variants.dark': {
    grade: 'harms',
    says: '{url} cannot be opened ({detail}). Visitors who type it see nothing.',
    remedy: 'Please let {url} redirect permanently (301) to {door}; it cannot be opened ({detail}).',
  },
  'variants.dark-unused': {
    grade: 'note',
    says: '{url} cannot be opened ({detail}). Few people would type it.',
    remedy: '',
  },
  'variants.closed': {
    grade: 'harms',
    says: '{url} keeps visitors out: it {detail}.',
    remedy: 'Please let {url} be reached without a sign-in, or redirect it permanently to {door}.',
  },
  'variants.circle': {
    grade: 'harms',
    says: '{url} leads nowhere: {detail}.',
    remedy: 'Please mend the redirects of {url}, so that they lead straight to {door}: {detail}.',
  },
  'variants.broken-certificate': {
    grade: 'harms',
    says: 'Visitors of {url} are warned away: {detail} (issuer {issuer}, until {until}).',
    remedy: 'Please install a valid certificate for {host}: {detail}. Visitors of {url} are warned away.',
  },
  'variants.certificate-ends': {
    grade: 'harms',
    says: 'The certificate of {host} ends in {days} days, on {until} (issuer {issuer}).',
    remedy: 'Please renew the certificate of {host} before {until}.',
  },
  'variants.temporary': {
    grade: 'harms',
    says: '{url} leads to {door} by a temporary redirect ({status}): engines keep the old address.',
    remedy: 'Please let {url} redirect to {door} with status 301 or 308 in place of {status}.',
  },
  'variants.by-refresh': {
    grade: 'harms',
    says: '{url} leads to {door} by a meta refresh, which not every engine follows.',
    remedy:
      'Please let the server redirect {url} to {door} (status 301), in place of the page’s meta refresh.',
  },
  'variants.by-script': {
    grade: 'harms',
    says: '{url} leads to {door} by a script, which engines that read the raw page do not see.',
    remedy: 'Please let the server redirect {url} to {door} (status 301), in place of the page’s script.',
  },
  'variants.long-way': {
    grade: 'note',
    says: '{url} takes {count} steps to {door}.',
    remedy: '',
  },
  'variants.downgrade': {
    grade: 'harms',
    says: '{url} leads from https to {to} without it.',
    remedy: 'Please let {url} stay on https, and redirect http to https.',
  },
  'variants.no-https': {
    grade: 'harms',
    says: 'The front door {url} is not encrypted.',
    remedy: 'Please serve the website over https, and redirect {url} there permanently.',
  },
  'variants.leads-elsewhere': {
    grade: 'harms',
    says: '{url} leads to {to}, not to the front door {door}.',
    remedy: 'Please let {url} redirect permanently to {door}; it leads to {to}.',
  },
  'variants.leads-away': {
    grade: 'harms',
    says: '{url} leads to {to}, another domain.',
    remedy:
      'Please tell us whether {to} is where visitors of {url} are meant to end up; if not, mend the redirect.',
  },
  'variants.moved-away': {
    grade: 'stops',
    says: 'Every variant of {url} leads to {to}, another domain.',
    remedy:
      'Please tell us whether the website has moved to {to} for good; engines have to be told of it, and redirects be permanent (301).',
  },
  'variants.same-page': {
    grade: 'harms',
    says: '{url} shows the same page as {door}, and neither leads to the other nor names it as canonical: engines see two websites.',
    remedy: 'Please let {url} redirect permanently (301) to {door}; both show the same page now.',
  },
  'variants.same-page-named': {
    grade: 'note',
    says: '{url} shows the same page as {door} and names it as canonical; a redirect would be surer.',
    remedy: '',
  },
  'variants.other-page': {
    grade: 'harms',
    says: '{url} shows another page than the front door {door}.',
    remedy: 'Please let {url} redirect permanently to {door}; it shows another page.',
  },
  'variants.place-of-its-own': {
    grade: 'note',
    says: '{url} is a place of its own beside the front door {door}.',
    remedy: '',
  },
  'variants.framed': {
    grade: 'harms',
    says: '{url} is only a frame around {frame}: engines see an empty page there.',
    remedy: 'Please let {url} redirect permanently to {door}, in place of framing {frame}.',
  },
  'variants.only-a-frame': {
    grade: 'stops',
    says: 'The front door {url} is only a frame around {frame}: engines see an empty page.',
    remedy:
      'Please serve the website at {url} itself, or redirect it to {frame}; the domain is forwarded inside a frame now.',
  },
  'variants.canonical-elsewhere': {
    grade: 'harms',
    says: 'The page at {url} names {canonical} as canonical, which is not the front door.',
    remedy: 'Please let the canonical link of {url} name {door}; it names {canonical}.',
  },
  'variants.canonical-away': {
    grade: 'stops',
    says: 'The page at {url} names {canonical} as canonical, on another domain: engines list that one in its place.',
    remedy: 'Please let the canonical link of {url} name {door}; it names {canonical}, another website.',
  },
  'variants.sibling-elsewhere': {
    grade: 'harms',
    says: 'The page at {url} names {sibling} as its sibling for “{language}”, a variant that is not the front door.',
    remedy:
      'Please let the hreflang links of {url} name addresses at {door}; for “{language}” it names {sibling}.',
  },
  'variants.sitemap-elsewhere': {
    grade: 'harms',
    says: 'The sitemap {sitemap} is at another variant than the front door {url}.',
    remedy: 'Please serve the sitemap at {url}, with addresses that begin so; it is {sitemap} now.',
  },
  'variants.hsts-shuts-out': {
    grade: 'harms',
    says: '{by} asks browsers to use https for every host under it (HSTS), and {url} has no working https.',
    remedy:
      'Please give {url} a valid certificate, or take includeSubDomains off the Strict-Transport-Security header of {by}.',
  },
  'variants.no-hsts': {
    grade: 'note',
    says: '{url} sends no Strict-Transport-Security header: a first visit over http stays possible.',
    remedy: '',
  },
  'variants.spelt-twice': {
    grade: 'harms',
    says: '{url} ({how}) shows the front door’s page as an address of its own, without a canonical link.',
    remedy:
      'Please let {url} redirect permanently to {door}, or give the page a canonical link that names {door}.',
  },
  'variants.spelt-twice-named': {
    grade: 'note',
    says: '{url} ({how}) shows the front door’s page too; its canonical link says which one counts.',
    remedy: '',
  },
  'variants.slash-lost': {
    grade: 'harms',
    says: '{url} has nothing, while {door} has the page: many people leave the closing slash off.',
    remedy: 'Please let {url} redirect permanently to {door}.',
  },
  'variants.slash-differs': {
    grade: 'harms',
    says: '{url} shows something else than {door}: many people leave the closing slash off.',
    remedy: 'Please let {url} redirect permanently to {door}.',
  },
  'variants.held-misses': {
    grade: 'harms',
    says: 'No badge held at {engine} covers {urls}, which visitors use.',
    remedy: 'Enrol {urls} at {engine} and prove it; what is held covers {held}.',
  },
  'variants.uncovered': {
    grade: 'harms',
    says: 'No enrolment at {engine} covers {urls}, which visitors use.',
    remedy: 'Enrol {urls} at {engine}; what is enrolled covers {held}.',
  },
  'variants.enrolled-on-redirect': {
    grade: 'harms',
    says: '{enrolment} is for {url}, which only leads to {door}.',
    remedy: 'Enrol {door} at {engine} as well. {rest}',
  },
  'variants.enrolled-in-the-dark': {
    grade: 'harms',
    says: '{enrolment} is for {url}, where nothing answers.',
    remedy: 'Enrol {door} at {engine} as well, or have {url} answer again.',
  },
  'variants.overlap': {
    grade: 'note',
    says: '{enrolment} covers nothing that {by} does not cover too.',
    remedy: '',
  },
} as const satisfies Record<string, CatalogueEntry>;
