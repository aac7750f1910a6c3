import { isOpen } from '../../findings/catalogue.js';
import type { Finding } from '../../findings/finding.js';
import type { Evidence } from '../probe/evidence.js';
import { examine, type Examined } from '../probe/examine.js';
import { judgeDns } from './dns.js';
import { judgeFile } from './file.js';
import { judgeMeta } from './meta.js';
import { NOTHING_KNOWN, type JudgeContext, type Judging } from './value.js';
import type { Placement } from '../placement.js';
import { visibleAt } from './visible-at.js';

/** What the engine will say if claimed now. */
export const FORECASTS = ['accept', 'refuse', 'unsure'] as const;
export type Forecast = (typeof FORECASTS)[number];

export interface Judgement {
  /** Whether the token stands where and how the engine wants it. */
  readonly seen: boolean;
  readonly forecast: Forecast;
  /** When asking again makes sense; null when now is as good as later. */
  readonly visibleAt: Date | null;
  /** The root cause first; what merely follows from it below, marked with its code. */
  readonly findings: readonly Finding[];
  /** What stands in place of the token, where something does that was meant to be it. */
  readonly stands: string | null;
}

/** What an earlier look said about when to ask again: looking once more must not move it on. */
export interface EarlierLook {
  readonly visibleAt: Date | null;
}

/**
 * Judges what was seen at a placement.
 * @param checkedAt when the evidence was taken
 * @param examined the evidence made ready, where the caller has done that already
 * @param context what the product knows of other tokens
 */
export function judge(
  placement: Placement,
  evidence: Evidence,
  checkedAt: Date,
  examined: Examined = examine(placement, evidence),
  context: JudgeContext = NOTHING_KNOWN,
  earlier: EarlierLook | null = null,
): Judgement {
  const findings = causesFirst(findingsFor(placement, evidence, examined, { ...context, at: checkedAt }));
  const forecast = forecastFrom(findings);
  return {
    seen: forecast === 'accept',
    forecast,
    visibleAt: visibleAt(placement, evidence, findings, checkedAt, earlier?.visibleAt ?? null),
    findings,
    stands: standing(findings),
  };
}

function findingsFor(
  placement: Placement,
  evidence: Evidence,
  examined: Examined,
  context: Judging,
): Finding[] {
  if (placement.method === 'dns')
    return evidence.kind === 'dns' ? judgeDns(placement, evidence, context) : mismatch();
  if (evidence.kind !== 'page') return mismatch();
  return placement.method === 'meta'
    ? judgeMeta(placement, evidence, examined, context)
    : judgeFile(placement, evidence, context);
}

function mismatch(): never {
  throw new TypeError('the evidence is of another kind than the placement');
}

/** A finding that stops decides; if the cause may pass by itself, nobody can be sure. */
export function forecastFrom(findings: readonly Finding[]): Forecast {
  const stopping = findings.filter((one) => one.grade === 'stops');
  if (stopping.length === 0) return 'accept';
  const causes = stopping.filter(({ follows }) => follows === null);
  return causes.every(isOpen) ? 'unsure' : 'refuse';
}

/**
 * The judges tell causes before consequences: the first finding that stops is the root cause, and what stops after it
 * merely follows. What is in order all the same, and what only harms, comes last.
 */
function causesFirst(findings: readonly Finding[]): Finding[] {
  const [root, ...others] = findings.filter(({ grade }) => grade === 'stops');
  const rest = (['harms', 'note'] as const).flatMap((grade) => findings.filter((one) => one.grade === grade));
  return root ? [root, ...others.map((one) => ({ ...one, follows: root.code })), ...rest] : rest;
}

/** What stands in place of the token: the value that a finding about a value names. */
export function standing(findings: readonly Finding[]): string | null {
  const found = findings.find(
    ({ grade, evidence }) => grade === 'stops' && typeof evidence['found'] === 'string',
  );
  return found ? String(found.evidence['found']) : null;
}
