import type { Finding } from '../../findings/finding.js';
import type { DnsEvidence, Evidence } from '../probe/evidence.js';
import { rememberedSeconds, serversStand } from './servers.js';
import type { Placement } from '../placement.js';

function later(from: Date, seconds: number): Date {
  return new Date(from.getTime() + seconds * 1000);
}

/**
 * When asking again makes sense, from the lifetimes of copies and of DNS answers. Null where waiting changes nothing:
 * something has to be put right first.
 * @param earlier what an earlier look said; as long as it is still to come, looking again does not move it on
 */
export function visibleAt(
  placement: Placement,
  evidence: Evidence,
  findings: readonly Finding[],
  checkedAt: Date,
  earlier: Date | null,
): Date | null {
  const [root] = findings.filter(({ grade }) => grade === 'stops');
  if (!root) return null;
  if (root.code === 'meta.stale-copy' || root.code === 'file.stale-copy') {
    const { seconds } = root.evidence;
    return typeof seconds === 'number' && seconds > 0 ? later(checkedAt, seconds) : null;
  }
  if (evidence.kind !== 'dns' || placement.method !== 'dns') return null;
  if (root.code === 'dns.remembered') return afterMemory(evidence, checkedAt);
  if (root.code === 'dns.servers-disagree') {
    const refresh = serversStand(placement, evidence).having.find((one) => one.refresh !== null)?.refresh;
    return refresh == null ? null : kept(later(checkedAt, refresh), checkedAt, earlier);
  }
  // Without the zone's own servers nobody knows whether the record is there and only not seen yet.
  if (evidence.servers.length > 0 || evidence.failure !== null) return null;
  const after = afterMemory(evidence, checkedAt);
  return after && kept(after, checkedAt, earlier);
}

/** A resolver that was told "nothing there" may say so for the negative TTL (RFC 2308 §5), an old answer for its TTL. */
function afterMemory(evidence: DnsEvidence, checkedAt: Date): Date | null {
  const seconds = rememberedSeconds(evidence);
  return seconds === null ? null : later(checkedAt, seconds);
}

function kept(time: Date, checkedAt: Date, earlier: Date | null): Date {
  return earlier !== null && earlier > checkedAt && earlier < time ? earlier : time;
}
