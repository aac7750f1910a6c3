/** What went wrong here. */
export const OWN = {
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
  'records-full': {
    status: 507,
    title: 'The records cannot be written',
    says: 'Nothing was recorded, for the disk with the records is full or fails. What was recorded before is all there. Once there is room again, just try again.',
  },
  'records-damaged': {
    status: 500,
    title: 'A part of the records is damaged',
    says: 'A part of the records is damaged and cannot be read. What lies elsewhere can. Stop the service, keep its file, and put the newest copy of it there; “records verify” names what is damaged.',
  },
  internal: {
    status: 500,
    title: 'Something went wrong in the service',
    says: 'Something went wrong in the service. Its log has more.',
  },
} as const;
