/** Sitemaps and single pages at engines, engines themselves, their keys and what they answer. */
export const AT_ENGINES = {
  'nothing-takes-it': {
    status: 422,
    title: 'No enrolment takes the sitemap',
    says: 'No enrolment of this property would take the sitemap now: hold a badge that covers it first.',
  },
  'sitemap-broken': {
    status: 422,
    title: 'The sitemap cannot be read',
    says: '{sitemap} would not be read by {engine}: {why} Nothing was submitted.',
  },
  'sitemap-known': {
    status: 409,
    title: 'An engine knows the sitemap',
    says: '{sitemap} is known to engines: withdraw it there first.',
  },
  'known-already': {
    status: 422,
    title: 'The engine knows it already',
    says: '{engine} knows {sitemap} already, by {enrolment}: that is enough. Say “anyway” to submit it once more.',
  },
  'in-known-index': {
    status: 422,
    title: 'The engine knows an index of it',
    says: '{engine} knows the index {index}, which holds {sitemap}: that is enough. Say “anyway” to submit it beside it.',
  },
  'form-not-taken': { status: 422, title: 'The engine takes no such sitemap', says: '{says}' },
  'addresses-not-kept': {
    status: 422,
    title: 'The addresses were not kept',
    says: 'The addresses of the reading of {at} were not kept: only its count is. “sitemaps.keepAddresses” says up to how many are.',
  },
  'not-covered': {
    status: 422,
    title: 'No enrolment covers the page',
    says: 'No enrolment covers {address}{where}.',
  },
  'not-held': {
    status: 422,
    title: 'No held badge covers the page',
    says: 'No held badge covers {address}: engines answer only those who have proven the site. Claim {enrolment} first.',
  },
  'not-taken': {
    status: 422,
    title: 'The engine takes no such question',
    says: '{engine} takes no {what}.',
  },
  'ration-spent': {
    status: 429,
    title: 'The ration of today is spent',
    says: '{engine}’s {ration} {what} of today are spent. Ask again after {until} UTC. {meanwhile}',
  },
  'no-engine-key': { status: 409, title: 'The account has no key', says: '{says}' },
  'key-not-for-naming': {
    status: 422,
    title: 'The variable may not be named',
    says: '{variable} may not be named as a key. The setting keyVariables of the service says which may; as it comes, those that begin with YARDBADGE_KEY_.',
  },
  'no-key-needed': {
    status: 422,
    title: 'The engine needs no key',
    says: '{engine} is not linked: its accounts need no key.',
  },
  'no-profile-folder': {
    status: 422,
    title: 'There is no folder for profiles',
    says: 'The service has no folder for profiles: set “engines” in its configuration first.',
  },
  'engine-refused': { status: 422, title: 'The engine said no', says: '{says}' },
  'engine-waits': { status: 503, title: 'The engine asks to wait', says: '{says}' },
  'engine-unreached': {
    status: 502,
    title: 'The engine gave no answer',
    says: '{says} {then}',
  },
  'enrolment-missing': {
    status: 409,
    title: 'The engine has lost the enrolment',
    says: '{engine} does not know {enrolment} any more{meanwhile} Enrol it again, and get its token anew.',
  },
} as const;
