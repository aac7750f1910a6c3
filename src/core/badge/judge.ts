import { isOpen } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import type { Evidence } from './evidence.js';
import { judgeDns } from './judge-dns.js';
import { judgeFile } from './judge-file.js';
import { judgeMeta } from './judge-meta.js';
import type { Placement } from './placement.js';

/** What the engine will say if claimed now. */
export type Forecast = 'accept' | 'refuse' | 'unsure';

export interface Judgement {
  /** Whether the token stands where and how the engine wants it. */
  readonly seen: boolean;
  readonly forecast: Forecast;
  /** When asking again makes sense; null when now is as good as later. */
  readonly visibleAt: Date | null;
  readonly findings: readonly Finding[];
}

/**
 * Judges what was seen at a placement.
 * @param checkedAt when the evidence was taken
 */
export function judge(placement: Placement, evidence: Evidence, checkedAt: Date): Judgement {
  const findings = findingsFor(placement, evidence);
  const forecast = forecastFrom(findings);
  return {
    seen: forecast === 'accept',
    forecast,
    visibleAt: visibleAt(evidence, forecast, checkedAt),
    findings,
  };
}

function findingsFor(placement: Placement, evidence: Evidence): Finding[] {
  if (placement.method === 'dns') return evidence.kind === 'dns' ? judgeDns(placement, evidence) : mismatch();
  if (evidence.kind !== 'page') return mismatch();
  return placement.method === 'meta' ? judgeMeta(placement, evidence) : judgeFile(placement, evidence);
}

function mismatch(): never {
  throw new TypeError('the evidence is of another kind than the placement');
}

/** A finding that stops decides; if all that stop may pass by themselves, nobody can be sure. */
export function forecastFrom(findings: readonly Finding[]): Forecast {
  const stopping = findings.filter((one) => one.grade === 'stops');
  if (stopping.length === 0) return 'accept';
  return stopping.every((one) => isOpen(one.code)) ? 'unsure' : 'refuse';
}

/** A resolver that was told "nothing there" may say so for the negative TTL (RFC 2308 §5), an old answer for its TTL. */
function visibleAt(evidence: Evidence, forecast: Forecast, checkedAt: Date): Date | null {
  if (evidence.kind !== 'dns' || forecast === 'accept') return null;
  const remembered =
    evidence.records.length > 0 ? Math.min(...evidence.records.map((one) => one.ttl)) : evidence.negativeTtl;
  return remembered === null ? null : new Date(checkedAt.getTime() + remembered * 1000);
}
