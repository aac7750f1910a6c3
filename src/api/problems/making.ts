/** Sitemaps made and looked into, and what is carried. */
export const MADE = {
  'not-looked-inside': {
    status: 409,
    title: 'Nobody has looked inside',
    says: 'The addresses of {url} were not fetched yet: “sitemap entries {url}” does.',
  },
  'no-such-folder': {
    status: 404,
    title: 'No such folder',
    says: 'The sitemap lists nothing in “{folder}”. Expected a whole address that ends in “/”, as the tree shows it.',
  },
  'nothing-gathered': {
    status: 409,
    title: 'Nothing was gathered yet',
    says: 'No addresses of {property} were gathered yet: “sitemap make {property}” does so.',
  },
  'nothing-chosen': {
    status: 409,
    title: 'Nothing is chosen',
    says: 'No page of {property} would go into its sitemap as things are chosen now.',
  },
  'being-deleted': {
    status: 409,
    title: 'Is being deleted',
    says: 'The records are being deleted, by the job {job}: there is nothing left to restore.',
  },
  'place-known': {
    status: 409,
    title: 'Recorded already',
    says: '{place} is recorded for {property} already.',
  },
  'no-such-place': { status: 404, title: 'No such place', says: 'There is no place “{ref}” to carry to.' },
  'no-places': {
    status: 409,
    title: 'No place to carry to',
    says: 'No place of {property} is recorded to which anything could be carried: “carry place {property}” records one. A meta tag goes into the pages by no open protocol; ask whoever looks after them.',
  },
  'may-not-carry': {
    status: 403,
    title: 'May not carry there',
    says: 'The places of {property} are for leads to carry to.',
  },
  'robots-keep-out': {
    status: 409,
    title: 'It keeps engines out',
    says: 'This robots.txt keeps {engines} from the front door, by line {line}. Say “anyway” to keep it all the same.',
  },
  'carry-failed': { status: 502, title: 'It could not be carried', says: '{place}: {why}' },
  'no-such-version': {
    status: 404,
    title: 'No such version',
    says: 'There is no version “{ref}” of a made sitemap.',
  },
  'no-such-file': { status: 404, title: 'No such file', says: 'There is no file “{name}” of {version}.' },
  'not-handed-out': {
    status: 409,
    title: 'Not handed out here',
    says: 'The sitemap of {property} is not handed out by the service: “sitemap hand-out {property}” begins with it.',
  },
} as const;
