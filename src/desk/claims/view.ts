import type { Claim, JobResult } from '../../api/documents.js';
import type { ClaimRow } from '../../store/models/enrolments.js';
import { viewCheck } from '../checks/view.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';

/**
 * A claim as it is told.
 * @param names of people who recorded verdicts by hand
 */
export function viewClaim(row: ClaimRow, names: ReadonlyMap<string, string> = new Map()): Claim {
  const { id, enrolmentId, method, askedAt } = row;
  return {
    id,
    enrolment: enrolmentId,
    method,
    askedAt,
    answeredAt: row.answeredAt ?? null,
    verdict: row.verdict ?? null,
    reason: row.reason ?? null,
    recordedBy: row.recordedBy == null ? null : (names.get(row.recordedBy) ?? null),
  };
}

/** What a claim came to, in the engine’s own words where it has none of ours. */
export function claimResult(facts: EnrolmentFacts, row: ClaimRow): JobResult {
  const claim = viewClaim(row);
  const base = { enrolment: facts.name, claim };
  const { title } = facts.profile;
  if (row.verdict === 'confirmed')
    return {
      ...base,
      says: `${title} confirmed ${facts.name}: held.${facts.tokens.length > 1 ? ' Its other methods are not needed.' : ''}`,
      stops: false,
    };
  if (row.verdict === 'refused') {
    const check = facts.checks.find((one) => one.method === row.method);
    const says = `${title} refused: “${row.reason ?? ''}”.`;
    return {
      ...base,
      says,
      stops: true,
      problem: { code: 'engine-refused', detail: says },
      ...(check ? { check: viewCheck(facts, check) } : {}),
    };
  }
  const says = `${title} did not take the claim: ${row.reason ?? ''}`;
  return { ...base, says, stops: true, problem: { code: 'engine-waits', detail: says } };
}
