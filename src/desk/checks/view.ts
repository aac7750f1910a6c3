import type { Check } from '../../api/documents.js';
import type { Finding } from '../../core/findings/finding.js';
import { wasTried } from '../../core/worklist/decisive-check.js';
import type { CheckRow } from '../../store/models/enrolments.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';

/** A check as it is told. */
export function viewCheck(facts: Pick<EnrolmentFacts, 'row' | 'name'>, row: CheckRow): Check {
  return {
    id: row.id,
    property: propertyIn(facts.name),
    engine: facts.row.engine,
    enrolment: facts.name,
    method: row.method,
    place: row.place,
    checkedAt: row.checkedAt,
    firstAt: row.firstAt ?? row.checkedAt,
    times: row.times,
    seen: row.seen,
    seenSince: row.seenSince,
    tried: wasTried(row.findings.find((one) => one.grade === 'stops')?.code ?? null),
    forecast: row.forecast,
    visibleAt: row.visibleAt ?? null,
    findings: row.findings.map((one) => ({ ...{ follows: null }, ...one, evidence: { ...one.evidence } })),
  };
}

/** The property's handle in an enrolment's name. */
export function propertyIn(name: string): string {
  return name.slice(0, name.lastIndexOf('@'));
}

/** The finding that says most: the first that stops, else the first. */
export function leading(findings: readonly Finding[]): Finding | undefined {
  return findings.find((one) => one.grade === 'stops') ?? findings[0];
}
