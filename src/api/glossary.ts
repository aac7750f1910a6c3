import type { Badge } from '../core/badge/standing.js';

/** Words of ours that nobody could guess, explained where they are met: in the command line, and on the pages of the console. */
export interface ExplainedWord {
  readonly word: string;
  readonly means: string;
  /** The badge that it is the word of, where it is. */
  readonly badge?: Badge;
}

export const GLOSSARY: readonly ExplainedWord[] = [
  { word: 'property', means: 'one website of a client, as the agency sees it' },
  { word: 'variant', means: 'one address by which a property answers: scheme, host and path' },
  { word: 'front door', means: 'the variant where visitors end up; the others should lead there' },
  {
    word: 'house',
    means:
      'the engine that is the agency itself: proof that a new client controls the website, issued and judged here',
  },
  { word: 'enrolment', means: 'a property registered with an engine; written ferries@veldrane' },
  {
    word: 'placement',
    means: 'one token, as a meta tag, a file or a DNS record, at the one place where it has to stand',
  },
  { word: 'bare', badge: 'bare', means: 'enrolled, and no token yet' },
  { word: 'issued', badge: 'issued', means: 'the token is known, and does not stand yet' },
  {
    word: 'in-place',
    badge: 'in-place',
    means: 'our check sees the token; the engine has not confirmed it yet',
  },
  { word: 'held', badge: 'held', means: 'the engine confirmed the ownership' },
  {
    word: 'slipping',
    badge: 'slipping',
    means: 'held, but our check no longer sees the token: put it back before the engine looks',
  },
  { word: 'lost', badge: 'lost', means: 'the engine withdrew the ownership' },
  {
    word: 'spare',
    means: 'a method that is not placed and not needed, since another one of the same enrolment is',
  },
  { word: 'forecast', means: 'what the engine would say to a claim now: accept, refuse or unsure' },
  { word: 'alert', means: 'something that slipped, was lost or will be; “alerts” lists them' },
  { word: 'put off', means: 'a next step that waits until a day' },
];
