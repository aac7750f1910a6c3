import { finding } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import type { DnsEvidence } from './evidence.js';
import type { DnsPlacement } from './placement.js';
import { same } from './same.js';

/** What a DNS answer says about a DNS placement. NXDOMAIN and "no such type" are told apart (RFC 2308 §2). */
export function judgeDns(placement: DnsPlacement, evidence: DnsEvidence): Finding[] {
  const base = {
    name: placement.place,
    zone: placement.zone,
    recordName: placement.recordName,
    value: placement.value,
    records: evidence.records.length,
  };
  if (evidence.failure !== null || evidence.rcode === null) {
    return [finding('dns.no-answer', { ...base, failure: evidence.failure ?? 'no answer' })];
  }
  if (evidence.rcode === 'NXDOMAIN') return [finding('dns.no-name', base)];
  if (evidence.rcode !== 'NOERROR')
    return [finding('dns.server-fails', { ...base, rcode: excerpt(evidence.rcode) })];
  const right = evidence.records.find((record) => same(placement.compare, record.value, placement.value));
  if (right) return [finding('dns.stands', { ...base, ttl: right.ttl })];
  if (evidence.records.length === 0) return [finding('dns.no-record', base)];
  const prefix = placement.value.slice(0, placement.value.indexOf('=') + 1);
  const other =
    prefix === '' ? undefined : evidence.records.find((record) => record.value.trim().startsWith(prefix));
  if (other) return [finding('dns.other-value', { ...base, found: excerpt(other.value) })];
  return [finding('dns.absent', base)];
}
