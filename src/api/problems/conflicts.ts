/** What is there already, or went otherwise meanwhile; and enrolling. */
export const MEANWHILE = {
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
  'one-page': {
    status: 409,
    title: 'That is the address of one page',
    says: 'What was pasted names one page of {site}. Take on {site}, which covers all of its pages. Say “anyway” to take on {address} as a property of its own.',
  },
  'property-in-use': {
    status: 409,
    title: 'Something was done with the property',
    says: '{property} has {what}. All of it is deleted with it, for good; what is registered at engines stays there. “property archive” keeps it. Say “anyway” to delete it all the same.',
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
  'report-sent': {
    status: 409,
    title: 'It was sent already',
    says: 'The report {title} went to {to} at {at} (UTC). Say “anyway” to send it once more.',
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
} as const;
