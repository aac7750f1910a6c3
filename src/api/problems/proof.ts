/** Tokens, checks and claims, and what only a person can carry across. */
export const PROOF = {
  'method-not-taken': {
    status: 422,
    title: 'The engine takes no such proof',
    says: '{engine} takes no proof by {method} for {enrolment}; it takes {taken}.',
  },
  'method-gone': {
    status: 422,
    title: 'The engine takes the method no longer',
    says: '{engine} no longer takes the method {method} here.',
  },
  'no-token': {
    status: 422,
    title: 'No token is known',
    says: 'No {method}token is known for {enrolment}. {next}',
  },
  'replaces-standing': {
    status: 409,
    title: 'It would replace a token that stands',
    says: 'The {method} token {old} of {enrolment} stands at {place}, and what was pasted is another: {token}. Say “anyway” to take it, and have it placed in place of the old one.',
  },
  'token-of-another': {
    status: 409,
    title: 'It is the token of another property',
    says: '{token} is the token that {engine} gave {property}, not {enrolment}: it gives each its own. Look at the page of the right one. Say “anyway” to take it all the same.',
  },
  'which-method': {
    status: 422,
    title: 'By which method is not said',
    says: '{enrolment} has tokens by {methods}, and {standing}. Say by which {engine} confirmed it: method {methods}.',
  },
  'nothing-stands': {
    status: 409,
    title: 'Our check does not see the token',
    says: 'Our check does not see {enrolment} stand by {method}: {seen} What {engine} confirmed has to stand, or it is withdrawn again. Say “anyway” to record it all the same.',
  },
  'no-verdict-by-hand': {
    status: 422,
    title: 'There is nothing to take back',
    says: 'Nobody recorded a verdict for {enrolment} that could be taken back.',
  },
  'token-holds-badge': {
    status: 409,
    title: 'The badge is held by this token',
    says: '{enrolment} is held by its {method} token: it cannot be forgotten while the engine looks for it.',
  },
  'nothing-to-check': {
    status: 422,
    title: 'There is nothing to check yet',
    says: 'There is nothing to check yet: no token is known. “token” gets it.',
  },
  'forecast-refuses': { status: 422, title: 'The claim cannot succeed', says: '{says}' },
  'nothing-to-adopt': {
    status: 422,
    title: 'There is nothing to take over',
    says: '{engine} is the agency’s own: it knows exactly what is recorded here, so nothing can be new or missing there.',
  },
  'by-hand': { status: 422, title: 'The engine is manual', says: '{says}' },
  'not-by-hand': {
    status: 422,
    title: 'The engine is not manual',
    says: '{engine} is not a manual engine: what it says itself counts. {instead}',
  },
  'no-badge': {
    status: 422,
    title: 'There is no badge',
    says: '{enrolment} is {badge}: there is no badge to withdraw.',
  },
} as const;
