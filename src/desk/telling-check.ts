import { decisiveCheck } from '../core/worklist/decisive.js';
import type { CheckRow } from '../store/models/enrolments.js';

/**
 * The check of an enrolment that says most, of the newest of each method.
 * @param claimed the method by which the badge is held, if it is
 */
export function tellingCheck(checks: readonly CheckRow[], claimed: string | null): CheckRow | null {
  const facts = checks.map((check) => ({
    method: check.method,
    seen: check.seen,
    at: new Date(check.checkedAt),
    leading: check.findings.find((one) => one.grade === 'stops')?.code ?? null,
    check,
  }));
  return decisiveCheck(facts, claimed)?.check ?? null;
}
