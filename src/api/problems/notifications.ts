/** Letters, links, reports, messages, words and hand-overs: what people of clients and ours get. */
export const TOLD = {
  'nothing-to-place': {
    status: 409,
    title: 'Nothing to place',
    says: 'No token is known that could be placed for {title}: “token” gets those of its enrolments.',
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
    says: 'There is nothing to ask for {title}: everything is in place, or it has no contact.',
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
  'bad-webhook': {
    status: 400,
    title: 'Not an address for a webhook',
    says: '“{url}” cannot be a webhook; expected an http or https address without a name and password in it.',
  },
  'too-many-webhooks': {
    status: 422,
    title: 'Too many webhooks',
    says: 'There are {most} webhooks already, which is the most: remove one first.',
  },
  'no-such-webhook': { status: 404, title: 'No such webhook', says: 'There is no webhook “{ref}”.' },
  'no-such-notification': {
    status: 404,
    title: 'No such notification',
    says: 'There is no notification “{ref}”.',
  },
  'not-given-up': {
    status: 409,
    title: 'Not given up',
    says: '“{subject}” was sent, or is still tried: only what was given up is tried once more.',
  },
  'no-such-contact': {
    status: 404,
    title: 'No such contact',
    says: 'Nobody who is there is known as “{ref}”: “contact list” shows who is.',
  },
  'no-such-letter': { status: 404, title: 'No such letter', says: 'No letter is known as “{ref}”.' },
  'no-such-alert': {
    status: 404,
    title: 'No such alert',
    says: 'No alert that is open there is known as “{ref}”: “alerts” lists them.',
  },
  'not-on-the-sheet': {
    status: 422,
    title: 'It is not on that sheet',
    says: '{enrolment} is of another property than the link is for. Name enrolments of that property or client.',
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
  'deletion-not-due': {
    status: 409,
    title: 'They are not to be deleted yet',
    says: 'The records of {client} are not to be deleted yet: {until}. Say “anyway” to delete them all the same.',
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
    says: '{person} has no mail address: give one with “notify”, and order the report then.',
  },
  'no-contact-address': {
    status: 409,
    title: 'No mail address',
    says: 'The contact of {client} has no mail address: give one with “client edit”, or name the address.',
  },
} as const;
