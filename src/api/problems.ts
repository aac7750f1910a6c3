import type { ProblemDocument } from './documents.js';

/**
 * Every problem that the API answers with: one row, one stable code, one sentence (RFC 9457). The sentence says what was
 * expected, what was there, and what to do; `{name}` in it is filled from what the problem is made with.
 */
export const PROBLEMS = {
  // What was sent does not fit.
  'bad-input': { status: 400, title: 'The input does not fit', says: '{says}' },
  'bad-address': { status: 400, title: 'Not the address of a website', says: '{says}' },
  'bad-page-address': {
    status: 400,
    title: 'Not the address of a page',
    says: '“{text}” is no whole address. Expected such as https://www.saltmarsh-ferries.example/timetable.',
  },
  'nothing-to-place': {
    status: 409,
    title: 'Nothing to place',
    says: 'No token is known that could be placed for {title}: “token” gets those of its enrolments.',
  },
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
  'bad-lasts': {
    status: 400,
    title: 'Not a time for a link',
    says: '“{lasts}” is no time for which a link could work; expected an ISO 8601 duration from PT1H to P366D, such as P14D.',
  },
  'too-many-contacts': {
    status: 409,
    title: 'Too many people',
    says: '{most} people of one client are on record already; end those whom nobody writes to.',
  },
  'no-contacts': {
    status: 409,
    title: 'Nobody to write to',
    says: 'Nobody is on record for {title}: “contact add NAME --role developer|host|owner” notes somebody.',
  },
  'nothing-to-ask': {
    status: 409,
    title: 'Nothing to ask for',
    says: 'Nothing is to be asked of anybody for {title}: everything stands, or nobody is there for it.',
  },
  'one-letter-only': {
    status: 409,
    title: 'Words for one letter',
    says: 'Words of your own go into one letter, and there would be {count}: say to whom.',
  },
  'no-mail-server': {
    status: 409,
    title: 'No mail goes out',
    says: 'The settings name no mail server (mail.host): copy the letter and send it yourself.',
  },
  'no-contact-mail': {
    status: 409,
    title: 'No address of mail',
    says: 'No address is known of {name}: note one, or copy the letter and send it yourself.',
  },
  'too-many-links': {
    status: 409,
    title: 'Too many links',
    says: '{most} shared links work already; end those that nobody needs.',
  },
  'bad-cursor': {
    status: 400,
    title: 'Not the place of a page',
    says: '“after” is not what an earlier page said as “next”.',
  },
  'no-such-country': {
    status: 400,
    title: 'Not a country',
    says: '{which} Expected countries by code or name, such as FI or Finland.',
  },
  'bad-reach': {
    status: 400,
    title: 'Not a reach',
    says: '“{reach}” is neither a reach nor an address; expected name or address, as in ferries@veldrane:name, or such as bakery@house:www.pebble-rye.example.',
  },
  'bad-profile': { status: 400, title: 'The profile does not fit', says: '{says}' },
  'bad-request-key': {
    status: 400,
    title: 'Not an Idempotency-Key',
    says: 'An Idempotency-Key has 8 to 200 visible ASCII characters.',
  },
  'still-to-come': {
    status: 400,
    title: 'The time is still to come',
    says: '{at} is still to come; expected when the engine said so.',
  },
  'no-such-zone': {
    status: 400,
    title: 'Not a time zone',
    says: '“{zone}” is no time zone; expected a name such as Europe/Berlin.',
  },
  'bad-hook': {
    status: 400,
    title: 'Not an address to be told at',
    says: '“{url}” is no address that can be told of cases; expected http or https without a name and password in it.',
  },
  'too-many-hooks': {
    status: 422,
    title: 'Too many addresses to be told at',
    says: 'No more than {most} addresses are told of cases: take one off first.',
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
  'no-such-hook': { status: 404, title: 'No such address', says: 'No address is told of cases as “{ref}”.' },
  'no-such-message': { status: 404, title: 'No such message', says: 'There is no message “{ref}”.' },
  'not-given-up': {
    status: 409,
    title: 'Not given up',
    says: '“{subject}” was sent, or is still tried: only what was given up is tried once more.',
  },
  'not-to-come': {
    status: 400,
    title: 'The time is over',
    says: '{at} is over already; expected a time that is still to come.',
  },
  'not-paused': {
    status: 404,
    title: 'Not paused',
    says: 'The watch does not leave {what} alone: there is nothing to resume. “watch” shows what is paused.',
  },
  'reason-wanted': {
    status: 400,
    title: 'The reason is wanted',
    says: 'Give the reason that {engine} showed, in its own words.',
  },
  'more-listed-than-found': {
    status: 400,
    title: 'More listed than found',
    says: '{listed} listed of {found} found: expected no more than were found.',
  },
  'address-for-many': {
    status: 400,
    title: 'One address for several properties',
    says: 'An address can be given for one property at a time.',
  },
  'fact-not-asked': {
    status: 400,
    title: 'No engine asks for it',
    says: 'No engine asks for “{fact}”. Asked for is: {known}.',
  },
  'bad-fact': { status: 400, title: 'Not an answer that the engine takes', says: '{says}' },
  'too-many-values': {
    status: 400,
    title: 'Too many values',
    says: 'The {place} holds more than the {most} values that are taken here.',
  },
  'too-deep': {
    status: 400,
    title: 'Nested too deep',
    says: 'The {place} is nested deeper than anything that is taken here.',
  },
  'holds-nul': {
    status: 400,
    title: 'Not text',
    says: 'The {place} holds a NUL character; expected text.',
  },
  'too-large': { status: 413, title: 'The input is too large', says: '{says}' },
  'not-json': { status: 415, title: 'The input is not JSON', says: '{says}' },
  'not-read': { status: 422, title: 'What was pasted could not be read', says: '{says}' },

  // Who asks, and from where.
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
  'too-many-requests': { status: 429, title: 'Too many tries', says: '{says}' },
  'only-lead': {
    status: 422,
    title: 'The only lead',
    says: '{person} is the only lead; add another first.',
  },

  // What was named is not there, or is more than one.
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
  'no-such-contact': {
    status: 404,
    title: 'No such contact',
    says: 'Nobody who is there is known as “{ref}”: “contact list” shows who is.',
  },
  'no-such-letter': { status: 404, title: 'No such letter', says: 'No letter is known as “{ref}”.' },
  'no-such-case': {
    status: 404,
    title: 'No such case',
    says: 'No case that is open there is known as “{ref}”: “cases” names them.',
  },
  'no-such-link': { status: 404, title: 'No such link', says: 'No shared link works as “{ref}”.' },
  'no-such-sentence': {
    status: 404,
    title: 'No such sentence',
    says: 'There is no sentence {part}.{name}: “wording list” shows those that there are.',
  },
  'bad-wording': {
    status: 400,
    title: 'The sentence does not fit',
    says: '{name} cannot be said like that. {fault} Usually it is said: “{usual}”',
  },
  'no-handover': {
    status: 409,
    title: 'Not being handed over',
    says: '{client} is not being handed over: “handover {handle} --begin” begins it.',
  },
  'no-such-item': {
    status: 404,
    title: 'No such item',
    says: '“{item}” is nothing that is to be done; expected one of {items}.',
  },
  'handover-open': {
    status: 409,
    title: 'Not everything is done',
    says: 'Of the handing over of {client} {count} are open, the first: {first} Say “anyway” to end it all the same.',
  },
  'nobody-to-ask': {
    status: 409,
    title: 'No engine to ask',
    says: 'Of {title} nothing is held at an engine that can be asked who else holds it.',
  },
  'no-such-kept-report': {
    status: 404,
    title: 'No such report',
    says: 'No report was kept as “{ref}”: “report CLIENT --kept” lists those that were.',
  },
  'bad-span': {
    status: 400,
    title: 'Not a stretch of time',
    says: 'From {from} to {to} is no stretch that could be told of; expected a beginning before its end, not to come, and three years at most.',
  },
  'no-such-report': { status: 404, title: 'No such report', says: 'No report is sent as “{ref}”.' },
  'too-many-reports': {
    status: 409,
    title: 'Too many reports',
    says: 'There are {most} reports already, which is as many as are sent: end one first.',
  },
  'no-mail-address': {
    status: 409,
    title: 'No mail address',
    says: '{person} has no mail address: give one with “tell”, and order the report then.',
  },
  'no-contact-address': {
    status: 409,
    title: 'No mail address',
    says: 'The contact of {client} has no mail address: give one with “client edit”, or name the address.',
  },
  'no-such-person': { status: 404, title: 'No such person', says: 'There is no person “{ref}”.' },
  ambiguous: { status: 409, title: 'More than one fits', says: '“{ref}” fits {what}. Name {one}.' },

  // What is there already, or went otherwise meanwhile.
  'already-there': { status: 409, title: 'It is there already', says: '{says}' },
  'changed-meanwhile': {
    status: 412,
    title: 'Somebody else changed it meanwhile',
    says: 'It was changed since you read it. Read it again, then edit.',
  },
  'still-running': {
    status: 409,
    title: 'The first request with this key is still running',
    says: 'The first request with this Idempotency-Key is still being worked on.',
  },
  'key-reused': {
    status: 422,
    title: 'The Idempotency-Key was used for another request',
    says: 'This Idempotency-Key came with another request before. Take a new one.',
  },
  'answer-lost': {
    status: 409,
    title: 'It was done, but its answer is lost',
    says: 'The first request with this Idempotency-Key was carried out, but the service ended before its answer was kept. Look at what is there before you ask anew, with another key.',
  },
  'job-over': {
    status: 422,
    title: 'The job is over',
    says: 'The job is over: there is nothing to stop or to go on with.',
  },

  'same-site': {
    status: 409,
    title: 'The site is there already',
    says: '{address} is {how}, which is there already as the property {handle} of {client}. Say “anyway” to take it on as a property of its own.',
  },
  'same-name': {
    status: 409,
    title: 'A client of that name is there already',
    says: 'A client called {name} is there already, as {handle}. Say “anyway”, and give a handle, to add another of the same name.',
  },
  'holds-badges': {
    status: 409,
    title: 'Badges are held for it',
    says: '{property} holds {held}: the engines go on looking for its tokens, and nobody here will. Say “anyway” to archive it all the same, or end them first with “unenrol”.',
  },
  'has-properties': {
    status: 409,
    title: 'The client has properties',
    says: '{client} has {count} ({properties}). Say “anyway” to archive them with it.',
  },
  'client-archived': {
    status: 409,
    title: 'Its client is archived',
    says: '{property} is a property of {client}, who is archived: “client restore” comes first.',
  },
  'not-archived': { status: 409, title: 'It is not archived', says: '{what} is not archived.' },

  // Enrolling.
  'reach-not-taken': {
    status: 422,
    title: 'The engine does not register so',
    says: '{engine} does not register by {reach}; it takes {taken}.',
  },
  'not-of-property': {
    status: 422,
    title: 'The address is not the property’s',
    says: '{host} does not belong to {property} ({own}).',
  },
  'folder-by-name': {
    status: 422,
    title: 'A folder cannot be enrolled by name',
    says: '{property} is a folder of {host}; a name would cover its neighbours too. Enrol it by address.',
  },
  'door-unknown': {
    status: 422,
    title: 'The front door is not known',
    says: 'Where visitors of {property} end up is not known: {why} Give the address by hand, or try again once it answers.',
  },
  'facts-wanted': {
    status: 422,
    title: 'The engine wants to know more of the site',
    says: '{engine} asks of {property}: {asked}. Tell it once, as “--fact {first}=…”; it is remembered.',
  },
  'account-passed-on': {
    status: 422,
    title: 'The account was passed on',
    says: 'The account {account} was passed on to its client: nothing new is enrolled under it.',
  },
  'borrowed-results': {
    status: 422,
    title: 'The engine shows another’s results',
    says: '{engine} shows {from}’s results: nothing is to be done with it but with {from}.',
  },

  // Tokens, checks and claims.
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

  // What only a person can carry across.
  'by-hand': { status: 422, title: 'The engine is worked by hand', says: '{says}' },
  'not-by-hand': {
    status: 422,
    title: 'The engine is not worked by hand',
    says: '{engine} is not worked by hand: its own word counts. {instead}',
  },
  'no-badge': {
    status: 422,
    title: 'There is no badge',
    says: '{enrolment} is {badge}: there is no badge to withdraw.',
  },

  // Sitemaps and single pages.
  'nothing-takes-it': {
    status: 422,
    title: 'No enrolment takes the sitemap',
    says: 'No enrolment of this property would take the sitemap now: hold a badge that covers it first.',
  },
  'sitemap-broken': {
    status: 422,
    title: 'The sitemap cannot be read',
    says: '{sitemap} would not be read by {engine}: {why} Have it mended first, or say “anyway” to submit it all the same.',
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

  // Engines, their keys and what they answer.
  'no-engine-key': { status: 409, title: 'The account has no key', says: '{says}' },
  'key-not-for-naming': {
    status: 422,
    title: 'The variable may not be named',
    says: '{variable} may not be named as a key. The setting keyVariables of the service says which may; as it comes, those that begin with YARDBADGE_KEY_.',
  },
  'no-key-needed': {
    status: 422,
    title: 'The engine needs no key',
    says: '{engine} is not worked over the link: its accounts need no key.',
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

  // What went wrong here.
  'beyond-reading': {
    status: 422,
    title: 'More than can be read',
    says: 'What answered took more {tax} to be read than is allowed for anything: far more than an engine would take. Nothing is known of it; the one who made it should look at it.',
  },
  'given-up': {
    status: 500,
    title: 'It was begun again and again and never ended',
    says: 'It was begun {times} times and never ended: each time the service ended with it. It is given up, so that the rest goes on; what it works on may be more than can be read.',
  },
  internal: {
    status: 500,
    title: 'Something went wrong in the service',
    says: 'Something went wrong in the service. Its log has more.',
  },
} as const;

export type ProblemCode = keyof typeof PROBLEMS;

/** The names in a sentence that are to be filled: `'{engine} takes no {what}.'` → `'engine' | 'what'`. */
type Names<Sentence> = Sentence extends `${string}{${infer Name}}${infer Rest}` ? Name | Names<Rest> : never;

/** What a problem of a code is made with: a value for each name in its sentence, and what else its document carries. */
export type Made<Code extends ProblemCode> = [Names<(typeof PROBLEMS)[Code]['says']>] extends [never]
  ? [values?: Readonly<Record<never, never>>, more?: Readonly<Record<string, unknown>>]
  : [
      values: Readonly<Record<Names<(typeof PROBLEMS)[Code]['says']>, string | number>>,
      more?: Readonly<Record<string, unknown>>,
    ];

/** A refusal with a code, thrown anywhere below the service and answered as a problem document. */
export class Problem<Code extends ProblemCode = ProblemCode> extends Error {
  readonly detail: string;
  readonly more: Readonly<Record<string, unknown>>;

  constructor(
    readonly code: Code,
    ...[values = {}, more = {}]: Made<Code>
  ) {
    const detail = filled(PROBLEMS[code].says, values);
    super(detail);
    this.detail = detail;
    this.more = more;
  }

  document(): ProblemDocument {
    const { status, title } = PROBLEMS[this.code];
    return {
      type: `urn:yardbadge:problem:${this.code}`,
      title,
      status,
      detail: this.detail,
      code: this.code,
      ...this.more,
    };
  }
}

function filled(sentence: string, values: Readonly<Record<string, string | number>>): string {
  return sentence.replace(/\{(\w+)\}/g, (_, name: string) => String(values[name] ?? ''));
}
