import type { ProblemDocument } from './documents.js';

/** Every problem that the API answers with: one row, one stable code (RFC 9457). */
export const PROBLEMS = {
  'bad-input': { status: 400, title: 'The input does not fit' },
  'bad-address': { status: 400, title: 'Not the address of a website' },
  'not-signed-in': { status: 401, title: 'Sign in first' },
  'wrong-password': { status: 401, title: 'Name or password is wrong' },
  'not-allowed': { status: 403, title: 'Your role does not allow this' },
  'other-host': { status: 421, title: 'Not known by that name' },
  'cross-site': { status: 403, title: 'Refused: the request comes from another site' },
  'no-such-route': { status: 404, title: 'There is nothing here' },
  'no-such-client': { status: 404, title: 'No such client' },
  'no-such-property': { status: 404, title: 'No such property' },
  'no-such-engine': { status: 404, title: 'No such engine' },
  'no-such-account': { status: 404, title: 'No such account' },
  'bad-profile': { status: 400, title: 'The profile does not fit' },
  'facts-wanted': { status: 422, title: 'The engine wants to know more of the site' },
  'not-read': { status: 422, title: 'What was pasted could not be read' },
  'by-hand': { status: 422, title: 'The engine is worked by hand' },
  'enrolment-missing': { status: 409, title: 'The engine has lost the enrolment' },
  'no-engine-key': { status: 409, title: 'The account has no key' },
  'no-such-enrolment': { status: 404, title: 'No such enrolment' },
  'no-such-sitemap': { status: 404, title: 'No such sitemap' },
  'no-such-reading': { status: 404, title: 'No such reading' },
  'no-such-submission': { status: 404, title: 'No such submission' },
  'no-such-host': { status: 404, title: 'No such host' },
  'no-such-job': { status: 404, title: 'No such job' },
  'no-such-key': { status: 404, title: 'No such key' },
  'no-such-person': { status: 404, title: 'No such person' },
  'engine-refused': { status: 422, title: 'The engine said no' },
  'ration-spent': { status: 429, title: 'The ration of today is spent' },
  'engine-waits': { status: 503, title: 'The engine asks to wait' },
  'engine-unreached': { status: 502, title: 'The engine gave no answer' },
  'claim-open': { status: 409, title: 'An earlier claim has no answer yet' },
  'forecast-refuses': { status: 422, title: 'The claim cannot succeed' },
  ambiguous: { status: 409, title: 'More than one fits' },
  'already-there': { status: 409, title: 'It is there already' },
  'answer-lost': { status: 409, title: 'It was done, but its answer is lost' },
  'beyond-reading': { status: 422, title: 'More than can be read' },
  'given-up': { status: 500, title: 'It was begun again and again and never ended' },
  'still-running': { status: 409, title: 'The first request with this key is still running' },
  'changed-meanwhile': { status: 412, title: 'Somebody else changed it meanwhile' },
  'too-large': { status: 413, title: 'The input is too large' },
  'not-json': { status: 415, title: 'The input is not JSON' },
  'key-reused': { status: 422, title: 'The Idempotency-Key was used for another request' },
  'cannot-be': { status: 422, title: 'This cannot be done' },
  'too-many-requests': { status: 429, title: 'Too many tries' },
  internal: { status: 500, title: 'Something went wrong in the service' },
} as const;

export type ProblemCode = keyof typeof PROBLEMS;

/** A refusal with a code, thrown anywhere below the service and answered as a problem document. */
export class Problem extends Error {
  /** @param detail what was expected, what was there, what to do */
  constructor(
    readonly code: ProblemCode,
    readonly detail: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail);
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
