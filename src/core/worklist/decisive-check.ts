/** Findings that only say that nothing was placed there: a method that nobody chose looks just so. */
const UNTOUCHED = new Set([
  'meta.absent',
  'file.missing',
  'file.themed-missing',
  'dns.no-name',
  'dns.no-record',
  'dns.absent',
]);

/** Whether something was placed, rightly or not: by the first finding that stops; null where none does. */
export function wasTried(leading: string | null): boolean {
  return leading === null || !UNTOUCHED.has(leading);
}

interface CheckFacts {
  readonly method: string;
  readonly seen: boolean;
  readonly at: Date;
  /** Code of the first finding that stops; null where none does. */
  readonly leading: string | null;
}

/**
 * The check of an enrolment that says most, of the newest of each method: that of the method by which the engine
 * confirmed; else one that saw the token; else one where somebody tried; else the newest.
 * @param claimed the method by which the badge is held, if it is
 */
export function decisiveCheck<Check extends CheckFacts>(
  checks: readonly Check[],
  claimed: string | null,
): Check | null {
  const newestFirst = [...checks].sort((a, b) => b.at.getTime() - a.at.getTime());
  const find = (fits: (check: Check) => boolean) => newestFirst.find(fits);
  return (
    find((check) => check.method === claimed) ??
    find((check) => check.seen) ??
    find((check) => check.leading !== null && wasTried(check.leading)) ??
    newestFirst[0] ??
    null
  );
}

/** A check as it is recorded, as far as it matters which says most. */
export interface RecordedCheck {
  readonly method: string;
  readonly seen: boolean;
  /** RFC 3339. */
  readonly checkedAt: string;
  readonly findings: readonly { readonly code: string; readonly grade: string }[];
}

/**
 * The recorded check of an enrolment that says most, of the newest of each method.
 * @param claimed the method by which the badge is held, if it is
 */
export function tellingCheck<Check extends RecordedCheck>(
  checks: readonly Check[],
  claimed: string | null,
): Check | null {
  const facts = checks.map((check) => ({
    method: check.method,
    seen: check.seen,
    at: new Date(check.checkedAt),
    leading: check.findings.find((one) => one.grade === 'stops')?.code ?? null,
    check,
  }));
  return decisiveCheck(facts, claimed)?.check ?? null;
}
