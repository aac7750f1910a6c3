import type { ProblemCode } from './problems.js';

/** Problems that only say what speaks against something: whoever wants it all the same sends it once more with `anyway`. */
const ASKS: ReadonlySet<string> = new Set<ProblemCode>([
  'same-site',
  'one-page',
  'property-in-use',
  'same-name',
  'holds-badges',
  'has-properties',
  'replaces-standing',
  'token-of-another',
  'nothing-stands',
  'handover-open',
  'deletion-not-due',
  'report-sent',
]);

/** What somebody wants all the same: everything that speaks against it, or what they were asked about, by the problems' codes. */
export type Anyway = boolean | string[];

/** Whether somebody who was asked by a problem wants it all the same. */
export function isAnswered(anyway: Anyway | undefined, code: ProblemCode): boolean {
  return anyway === true || (Array.isArray(anyway) && anyway.includes(code));
}

/** Whether a problem asks, rather than refuses. */
export function isAsking(code: string): boolean {
  return ASKS.has(code);
}
