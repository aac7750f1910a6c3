import { finding } from '../../findings/catalogue.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { aboutWords, SECOND } from '../../time/duration.js';
import { copyAge, mayBeCopy } from '../probe/copy-age.js';
import { untilWords } from './until.js';
import type { PageEvidence } from '../probe/evidence.js';

/**
 * Compares what came by the ordinary way with what came past the caches. Engines come by the ordinary way, so the copy
 * decides what they will say now; the other tells what they will say later.
 * @param at when the evidence was taken: what is kept for some time is told by when that ends
 * @param here whether the token stands in the ordinary answer
 * @param behind whether it stands in the fresh one; null when that was not fetched
 */
export function judgeCopy(
  area: 'meta' | 'file',
  evidence: PageEvidence,
  here: boolean,
  behind: boolean | null,
  values: Readonly<Record<string, EvidenceValue>>,
  at: Date,
): Finding[] {
  const last = evidence.hops.at(-1);
  if (!last || behind === null || here === behind) return [];
  const { age, left } = copyAge(last);
  const facts = {
    ...values,
    url: last.url,
    age: age === null ? 'unknown age' : aboutWords(age * SECOND),
    left: left === null ? 'an unknown time' : aboutWords(left * SECOND),
    until: untilWords(at, left),
    seconds: left,
    via: last.headers['via'] ?? null,
  };
  if (behind) return [finding(`${area}.stale-copy`, facts)];
  return mayBeCopy(last) ? [finding(`${area}.going-stale`, facts)] : [];
}
