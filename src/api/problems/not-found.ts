/** What was named is not there, or is more than one. */
export const NAMED = {
  'no-such-route': { status: 404, title: 'There is nothing here', says: 'There is nothing at {route}.' },
  'no-such-client': {
    status: 404,
    title: 'No such client',
    says: 'There is no client “{ref}”{near} “client list” shows those there are.',
  },
  'no-such-property': {
    status: 404,
    title: 'No such property',
    says: 'No property has the handle or address “{ref}”{near}',
  },
  'no-such-properties': {
    status: 404,
    title: 'No such properties',
    says: '{count} of the references are no handle or address of a property, “{first}” the first of them.',
  },
  'no-such-engine': {
    status: 404,
    title: 'No such engine',
    says: 'There is no engine “{ref}”{near} Known are: {known}.',
  },
  'no-such-profile': {
    status: 404,
    title: 'No such profile',
    says: 'The engine “{engine}” has no profile any more.',
  },
  'no-such-account': {
    status: 404,
    title: 'No such account',
    says: 'There is no account “{ref}”. It is written ENGINE/NAME; “account list” shows those there are.',
  },
  'no-such-account-there': {
    status: 404,
    title: 'No such account with the engine',
    says: 'There is no account “{ref}” at {engine}. There are: {known}.',
  },
  'accounts-passed-on': {
    status: 404,
    title: 'No account is left with the engine',
    says: 'Every account at {engine} was passed on; add another with “account add {id} NAME”.',
  },
  'no-such-enrolment': {
    status: 404,
    title: 'No such enrolment',
    says: '{property} is not enrolled {where}. “enrol {property} --engine …” does it.',
  },
  'no-such-sitemap': {
    status: 404,
    title: 'No such sitemap',
    says: 'There is no sitemap “{ref}”. Add it first, by its whole address or a path.',
  },
  'no-such-reading': {
    status: 404,
    title: 'No such reading',
    says: 'There is no reading “{ref}”. Expected one of: {known}.',
  },
  'always-the-same': {
    status: 404,
    title: 'All readings found the same',
    says: 'All {times} readings, from {from} to {to} UTC, found the same {count} addresses: there is nothing to compare.',
  },
  'one-reading-only': {
    status: 404,
    title: 'One reading only',
    says: 'There is one reading only so far: a second one is needed to compare. Read it again.',
  },
  'never-read': {
    status: 404,
    title: 'Never read',
    says: 'It was never read, or never could be. Read it first.',
  },
  'no-such-submission': {
    status: 404,
    title: 'No such submission',
    says: 'There is no submission “{ref}”.',
  },
  'no-such-host': {
    status: 404,
    title: 'No such host',
    says: '{host} is not a host of {property} besides the usual ones.',
  },
  'no-such-job': { status: 404, title: 'No such job', says: 'There is no job “{ref}”.' },
  'no-such-key': { status: 404, title: 'No such key', says: 'You have no key “{ref}”.' },
  'no-such-step': {
    status: 404,
    title: 'No such step',
    says: 'Nothing is to be done of that kind there: the next steps are listed by “next”.',
  },
  'no-such-person': { status: 404, title: 'No such person', says: 'There is no person “{ref}”.' },
  ambiguous: { status: 409, title: 'More than one fits', says: '“{ref}” fits {what}. Name {one}.' },
} as const;
