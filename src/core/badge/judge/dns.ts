import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import type { DnsEvidence, NearbyKind, ServerSeen, TxtRecord } from '../probe/evidence.js';
import {
  judgeTaken,
  judgeValue,
  NOTHING_OURS,
  unlikeness,
  isOursToChange,
  type JudgeContext,
  type Judging,
} from './value.js';
import type { DnsPlacement } from '../placement.js';
import { same } from '../probe/comparison.js';
import { judgeServers, namedDelegated } from './servers.js';

type Values = Readonly<Record<string, EvidenceValue>>;

const NEARBY: Readonly<Record<NearbyKind, FindingCode>> = {
  doubled: 'dns.doubled-name',
  'label-doubled': 'dns.doubled-label',
  www: 'dns.at-www',
  parent: 'dns.at-parent',
  'other-label': 'dns.wrong-label',
  'no-label': 'dns.no-label',
};

/** More TXT records than this at one name are worth a word: answers grow too large for a datagram. */
const MANY = 10;

/** Whether the engine finds ours among the records, by its way of comparing and of reading several. */
export function holds(placement: DnsPlacement, records: readonly TxtRecord[]): boolean {
  return rightOf(placement, records) !== undefined;
}

function rightOf(placement: DnsPlacement, records: readonly TxtRecord[]): TxtRecord | undefined {
  if (placement.many === 'one' && records.length > 1) return undefined;
  return records.find((record) => same(placement.compare, record.value, placement.value));
}

/**
 * The TTL of the records that stand at the name, by the zone's own servers: all records of a set have one (RFC 2181 §5.2), so that another
 * one of a new record would change theirs. Null where there are none.
 */
function ttlBeside({ servers }: DnsEvidence): number | null {
  const own = servers.filter(({ role, authoritative }) => role === 'delegated' && authoritative);
  return own.flatMap(({ records }) => records.map(({ ttl }) => ttl))[0] ?? null;
}

/** What the DNS says about a placement: first how its servers stand to each other, then what the record says. */
export function judgeDns(placement: DnsPlacement, evidence: DnsEvidence, context: Judging): Finding[] {
  const base = {
    name: placement.place,
    zone: placement.zone,
    recordName: placement.recordName,
    value: placement.value,
    records: evidence.records.length,
    negativeTtl: evidence.negativeTtl,
    ttlBeside: ttlBeside(evidence),
  };
  const servers = judgeServers(placement, evidence, base, context.at);
  const right = rightOf(placement, evidence.records);
  const carriage = howItCame(evidence, base);
  if (right) {
    const stands = finding('dns.stands', { ...base, ttl: right.ttl });
    return servers.some(({ grade }) => grade === 'stops')
      ? [...servers, stands, ...carriage]
      : [stands, ...servers, ...carriage];
  }
  return [...servers, ...absent(placement, evidence, base, context), ...carriage];
}

function absent(
  placement: DnsPlacement,
  evidence: DnsEvidence,
  base: Values,
  context: JudgeContext,
): Finding[] {
  if (evidence.failure !== null || evidence.rcode === null)
    return [
      finding('dns.no-answer', {
        ...base,
        failure: evidence.failure ?? 'no answer',
        delegated: namedDelegated(evidence.servers),
        again: evidence.servers.length > 0 && evidence.servers.every(({ failure }) => failure !== null),
      }),
    ];
  if (evidence.rcode !== 'NOERROR' && evidence.rcode !== 'NXDOMAIN')
    return [
      finding('dns.server-fails', {
        ...base,
        rcode: excerpt(evidence.rcode),
        servers: told(evidence.servers),
        delegated: namedDelegated(evidence.servers),
      }),
    ];
  const [address] = evidence.wildAddresses;
  if (address !== undefined)
    return [
      finding('dns.host-by-wildcard', {
        ...base,
        owner: placement.owner,
        addresses: excerpt(evidence.wildAddresses.join(', '), 120),
      }),
    ];
  const near = notAlone(placement, evidence, base, context) ?? nearest(placement, evidence, base, context);
  const nearby = placedNearby(placement, evidence, base);
  const last = near ?? nothing(evidence, base);
  const [alias] = evidence.aliases;
  const cause =
    alias === undefined
      ? null
      : finding('dns.alias-hides', { ...base, alias: excerpt(evidence.aliases.at(-1) ?? alias) });
  const wildcard = evidence.wildcard && cause === null ? finding('dns.wildcard', base) : null;
  return [nearby, cause, near === null ? wildcard : null, last].filter((one) => one !== null);
}

/** What stands there of somebody else’s, where the engine reads a record only where it is alone. */
function notAlone(
  placement: DnsPlacement,
  { records }: DnsEvidence,
  base: Values,
  context: JudgeContext,
): Finding | null {
  if (placement.many !== 'one') return null;
  const other = records.find(
    ({ value }) =>
      !same(placement.compare, value, placement.value) && !isOursToChange(placement, value, context),
  );
  return other ? judgeTaken('dns', placement, other.value, base, context) : null;
}

/** The record that comes closest to being ours, told for what it is; null where none has to do with it. */
function nearest(
  placement: DnsPlacement,
  { records }: DnsEvidence,
  base: Values,
  context: JudgeContext,
): Finding | null {
  const halves = parted(placement, records);
  if (halves !== null) return finding('dns.parted', { ...base, found: halves });
  const prefix = placement.value.slice(0, placement.value.length - placement.token.length);
  const near = [...records]
    .filter(({ value }) => !same(placement.compare, value, placement.value))
    .map((record) => ({ record, unlike: unlikeness(placement, record.value, context) }))
    .filter(
      ({ record, unlike }) =>
        unlike < NOTHING_OURS || (prefix !== '' && record.value.trim().startsWith(prefix)),
    )
    .sort((a, b) => a.unlike - b.unlike)[0];
  return near ? judgeValue('dns', placement, near.record.value, base, context) : null;
}

/** A value that was entered as two records in place of two strings of one. */
function parted(placement: DnsPlacement, records: readonly TxtRecord[]): string | null {
  const parts = records.map(({ value }) => value.trim()).filter((value) => value.length >= 4);
  const head = parts.find((part) => placement.value.startsWith(part) && part !== placement.value);
  const tail = head === undefined ? undefined : parts.find((part) => head + part === placement.value);
  return tail === undefined ? null : excerpt(`${head ?? ''} + ${tail}`);
}

function placedNearby(placement: DnsPlacement, { nearby }: DnsEvidence, base: Values): Finding | null {
  const at = nearby.find(({ records }) => records.some(({ value }) => value.includes(placement.token)));
  return at ? finding(NEARBY[at.kind], { ...base, other: at.name }) : null;
}

/** NXDOMAIN and "no such type" are told apart (RFC 2308 §2). */
function nothing({ rcode, records }: DnsEvidence, base: Values): Finding {
  if (rcode === 'NXDOMAIN') return finding('dns.no-name', base);
  return finding(records.length === 0 ? 'dns.no-record' : 'dns.absent', base);
}

/** What the engine meets on the way to the record, harmless or not. */
function howItCame(evidence: DnsEvidence, base: Values): Finding[] {
  return [
    ...(evidence.via === 'tcp' ? [finding('dns.over-tcp', base)] : []),
    ...(evidence.records.length > MANY ? [finding('dns.many-records', base)] : []),
  ];
}

function told(servers: readonly ServerSeen[]): string {
  const words = servers.map(({ name, rcode, failure }) => `${name}: ${failure ?? rcode ?? 'no answer'}`);
  return words.length === 0 ? 'its servers could not be asked' : excerpt(words.join(', '), 240);
}
