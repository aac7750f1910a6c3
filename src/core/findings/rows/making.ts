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
    says: '“{what}” makes no difference to what is shown there; it was taken off: {count}, such as {first}.',
    remedy:
      'Please take “{what}” out of the links of the website, or give such pages a canonical link without it.',
  },
  'making.endless': {
    grade: 'note',
    says: 'Pages of the shape {what} go on without anything of their own, as the empty months of a calendar do; after {row} in a row the rest was not gone to, from {first} on. “--row” reads more of them.',
    remedy: '',
  },
  'making.parameters': {
    grade: 'note',
    says: 'Of hundreds of addresses by the parameters of {what} hardly one had anything of its own; the rest was not gone to: {count}, such as {first}.',
    remedy: '',
  },
  'making.too-deep': {
    grade: 'note',
    says: 'Pages lie more than {limit} links from the front door, and were not gone to: {count}, such as {first}. “--depth” goes further.',
    remedy: '',
  },
  'making.kept': {
    grade: 'harms',
    says: 'Pages that stood before could not be read this time: {count}, such as {first} ({detail}). They stay in until they are seen to be gone twice.',
    remedy:
      'Please see whether these pages are meant to answer: {count}, such as {first} ({detail}). Those that are gone for good leave the sitemap at the next gathering.',
  },
  'making.alike': {
    grade: 'note',
    says: 'Pages of the shape {what} are called the same and are much alike: {count}, such as {first}. All of them went in, since each may be one of its own.',
    remedy: '',
  },
  'making.identical': {
    grade: 'note',
    says: 'Pages show word for word what another address shows: {count}, such as {first}. All of them went in.',
    remedy: '',
  },
  'making.missing': {
    grade: 'harms',
    says: 'Pages look like the one that the website shows for an address that it does not have, and answers with 200: {count}, such as {first}. They went in all the same.',
    remedy: 'Please let addresses that have no page answer with 404 or 410: {first} looks like one of them.',
  },
  'making.frames': {
    grade: 'note',
    says: 'Pages show others in frames: {count}, such as {first}. What stands in the frames was gone to as well.',
    remedy: '',
  },
  'making.nofollow': {
    grade: 'stops',
    says: 'The front page asks that none of its links be followed, so the rest of the website was not gone to: {first}.',
    remedy: 'Please take “nofollow” off the front page, {first}, if its links are meant to be followed.',
  },
  'making.all-elsewhere': {
    grade: 'stops',
    says: 'Most pages name another address as their own, so they were left out: {count}, such as {first}, which names {detail}.',
    remedy:
      'Please look at the canonical links of the pages: each should name its own address, unless it really is a copy. {first} names {detail}.',
  },
  'making.repeating': {
    grade: 'harms',
    says: 'Links go round in themselves, and repeat “{detail}” in their path: {count}, such as {first}, linked from {from}.',
    remedy: 'Please mend the relative links on {from}: they repeat “{detail}” in the path.',
  },
  'making.bounded': {
    grade: 'note',
    says: 'The gathering ended at its bound of {limit} {what}: {waiting} addresses were not looked at. “--{what}” sets it further.',
    remedy: '',
  },
  'making.many-links': {
    grade: 'note',
    says: 'Pages have more links than anybody reads: {count}, such as {first}. The first ten thousand were followed.',
    remedy: '',
  },
  'making.dates-alike': {
    grade: 'note',
    says: 'The dates of all {count} pages that have one were the same ({date}), which says nothing: none was written.',
    remedy: '',
  },
} as const satisfies Record<string, CatalogueEntry>;
