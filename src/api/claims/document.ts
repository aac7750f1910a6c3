import type { VerdictKind } from '../../core/record/states.js';
import type { Method } from '../parts/document.js';

export interface Claim {
  id: string;
  enrolment: string;
  method: Method;
  askedAt: string;
  answeredAt: string | null;
  verdict: VerdictKind | null;
  reason: string | null;
  /** Who recorded it by hand. */
  recordedBy: string | null;
}
