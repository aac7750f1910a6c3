import { judge, type Judgement } from '../core/badge/judge.js';
import type { Evidence } from '../core/badge/evidence.js';
import type { Placement } from '../core/badge/placement.js';
import type { Clock } from '../core/time/clock.js';
import type { Net } from '../net/net.js';

export interface Looked {
  readonly checkedAt: Date;
  readonly evidence: Evidence;
  readonly judgement: Judgement;
}

/** Looks at a placement and judges what was seen: the one place where net and core meet for a check. */
export async function lookAt(net: Net, clock: Clock, placement: Placement): Promise<Looked> {
  const evidence =
    placement.method === 'dns' ? await net.txt(placement.place) : await net.page(placement.place);
  const checkedAt = clock.now();
  return { checkedAt, evidence, judgement: judge(placement, evidence, checkedAt) };
}
