import type { ProblemDocument } from './documents.js';
import { ASKED_BY } from './problems/callers.js';
import { AT_ENGINES } from './problems/engines.js';
import { MADE } from './problems/making.js';
import { MEANWHILE } from './problems/conflicts.js';
import { NAMED } from './problems/not-found.js';
import { OWN } from './problems/service.js';
import { PROOF } from './problems/proof.js';
import { SENT } from './problems/input.js';
import { TOLD } from './problems/notifications.js';

/**
 * Every problem that the API answers with: one row, one stable code, one sentence (RFC 9457). The sentence says what was
 * expected, what was there, and what to do; `{name}` in it is filled from what the problem is made with.
 */
export const PROBLEMS = {
  ...SENT,
  ...ASKED_BY,
  ...NAMED,
  ...TOLD,
  ...MADE,
  ...MEANWHILE,
  ...PROOF,
  ...AT_ENGINES,
  ...OWN,
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
