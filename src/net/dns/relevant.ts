import type { Answer, DecodedPacket } from 'dns-packet';
import { plain } from './names.js';

/** Aliases that are followed within one answer; a longer chain is somebody's trick. */
const LONGEST_CHAIN = 16;

/**
 * An answer without the records that nobody asked for: those of the name, and of the names that its aliases lead to, in the
 * order of the chain (RFC 1034 §3.6.2, RFC 6672 for DNAME). Whoever answers may put others beside them; they count for nothing (RFC 5452).
 */
export function relevant(packet: DecodedPacket, name: string): DecodedPacket {
  const byOwner = new Map<string, Answer[]>();
  for (const record of packet.answers ?? []) {
    const owner = plain(record.name);
    const own = byOwner.get(owner);
    if (own) own.push(record);
    else byOwner.set(owner, [record]);
  }
  const kept: Answer[] = [];
  const seen = new Set<string>();
  let at: string | null = plain(name);
  while (at !== null && !seen.has(at) && seen.size < LONGEST_CHAIN) {
    seen.add(at);
    const own: Answer[] = byOwner.get(at) ?? [];
    kept.push(...own);
    const alias: Answer | undefined = own.find(({ type }) => type === 'CNAME');
    at = alias && 'data' in alias && typeof alias.data === 'string' ? plain(alias.data) : null;
  }
  return { ...packet, answers: kept };
}
