/** What was sent does not fit. */
export const SENT = {
  'bad-input': { status: 400, title: 'The input does not fit', says: '{says}' },
  'bad-address': { status: 400, title: 'Not the address of a website', says: '{says}' },
  'bad-page-address': {
    status: 400,
    title: 'Not the address of a page',
    says: '“{text}” is no whole address. Expected such as https://www.saltmarsh-ferries.example/timetable.',
  },
  'bad-page-elsewhere': {
    status: 400,
    title: 'Not a page of the property',
    says: '“{text}” is no address of {door}. Expected a path such as /timetable, or a whole address of that host, with its scheme and port.',
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
  'not-to-come': {
    status: 400,
    title: 'The time is over',
    says: '{at} has passed. Expected a time in the future.',
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
} as const;
