/** Who asks, and from where. */
export const ASKED_BY = {
  'not-signed-in': { status: 401, title: 'Sign in first', says: 'Sign in, or send a bearer key.' },
  'wrong-password': {
    status: 401,
    title: 'Name or password is wrong',
    says: 'The name or the password is wrong.',
  },
  'not-allowed': {
    status: 403,
    title: 'Your role does not allow this',
    says: 'This needs the role {role}; {person} is {own}.',
  },
  'cross-site': {
    status: 403,
    title: 'Refused: the request comes from another site',
    says: 'Changes are taken only from the console’s own pages.',
  },
  'other-host': {
    status: 421,
    title: 'Not known by that name',
    says: 'This service is not known by that name. Its operator can tell it the name, as the setting publicUrl.',
  },
  'one-host': { status: 400, title: 'One host', says: 'A request names one host, by one Host header.' },
  'too-many-streams': {
    status: 429,
    title: 'Too many streams',
    says: '{person} listens {count} times already; close a page that is not needed.',
  },
  'too-many-requests': { status: 429, title: 'Too many tries', says: '{says}' },
  'only-lead': {
    status: 422,
    title: 'The only lead',
    says: '{person} is the only lead; add another first.',
  },
} as const;
