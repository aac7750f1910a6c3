/** Sitemaps made and read, and what is published. */
export const MADE = {
  'contents-not-read': {
    status: 409,
    title: 'Its contents were not fetched yet',
    says: 'The contents of {url} were not fetched yet: “sitemap contents {url}” fetches them.',
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
  'target-known': {
    status: 409,
    title: 'Recorded already',
    says: '{target} is recorded for {property} already.',
  },
  'no-such-target': {
    status: 404,
    title: 'No such target',
    says: 'There is no target “{ref}” to publish at.',
  },
  'no-targets': {
    status: 409,
    title: 'No target to publish at',
    says: '{handle} has no target yet: “target add {handle}” adds one. A meta tag cannot be published by an open protocol; ask whoever looks after the pages.',
  },
  'may-not-publish': {
    status: 403,
    title: 'May not publish there',
    says: 'Only leads may publish at the targets of {property}.',
  },
  'robots-keep-out': {
    status: 409,
    title: 'It keeps engines out',
    says: 'This robots.txt keeps {engines} from the front door, by line {line}. Say “anyway” to keep it all the same.',
  },
  'publish-failed': { status: 502, title: 'It could not be published', says: '{target}: {why}' },
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
