import { finding } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { aboutWords, SECOND } from '../../time/duration.js';
import type { DnsEvidence, ServerSeen } from '../probe/evidence.js';
import type { DnsPlacement } from '../placement.js';
import { same } from '../probe/comparison.js';
import { untilWords } from './until.js';

/** How the servers of a zone stand to a record, as each said itself. */
export interface ServersStand {
  /** Delegated and answering for the zone. */
  readonly answering: readonly ServerSeen[];
  readonly having: readonly ServerSeen[];
  readonly lacking: readonly ServerSeen[];
  /** Delegated, but of no use. */
  readonly lame: readonly ServerSeen[];
  /** Not delegated, and has it: the record was put where nobody asks. */
  readonly aside: readonly ServerSeen[];
}

/** Sorts the servers by whether they have the record. */
export function serversStand(placement: DnsPlacement, { servers }: DnsEvidence): ServersStand {
  const has = (server: ServerSeen) =>
    server.records.some((record) => same(placement.compare, record.value, placement.value));
  const delegated = servers.filter(({ role }) => role === 'delegated');
  const isUseful = (one: ServerSeen) =>
    one.failure === null && one.authoritative && (one.rcode === 'NOERROR' || one.rcode === 'NXDOMAIN');
  const answering = delegated.filter(isUseful);
  return {
    answering,
    having: answering.filter(has),
    lacking: answering.filter((one) => !has(one)),
    lame: delegated.filter((one) => !isUseful(one)),
    aside: servers.filter((one) => one.role !== 'delegated' && has(one)),
  };
}

/** Seconds for which the resolver that we asked will say the same again: the rest of the old set's TTL, or the negative one. */
export function rememberedSeconds({ records, negativeTtl }: DnsEvidence): number | null {
  return records.length > 0 ? Math.max(...records.map(({ ttl }) => ttl)) : negativeTtl;
}

/**
 * What the servers of the zone say beside the resolver: whether they agree, whether the record is where nobody asks,
 * and whether a resolver only remembers.
 */
export function judgeServers(
  placement: DnsPlacement,
  evidence: DnsEvidence,
  base: Readonly<Record<string, EvidenceValue>>,
  at: Date,
): Finding[] {
  const { answering, having, lacking, lame, aside } = serversStand(placement, evidence);
  const isSeen = evidence.records.some((record) => same(placement.compare, record.value, placement.value));
  const findings: Finding[] = [];
  const words = (servers: readonly ServerSeen[]) => excerpt(servers.map(tell).join(', '), 240);
  if (having.length > 0 && lacking.length > 0)
    findings.push(finding('dns.servers-disagree', { ...base, with: words(having), without: words(lacking) }));
  const seconds = rememberedSeconds(evidence);
  const left = seconds === null ? 'an unknown time' : aboutWords(seconds * SECOND);
  const until = untilWords(at, seconds);
  // One that fails remembers nothing: it has no answer at all.
  const isAnswered =
    evidence.failure === null && (evidence.rcode === 'NOERROR' || evidence.rcode === 'NXDOMAIN');
  if (answering.length > 0 && having.length === answering.length && !isSeen && isAnswered)
    findings.push(finding('dns.remembered', { ...base, left, until, resolver: evidence.server }));
  if (answering.length > 0 && having.length === 0 && isSeen)
    findings.push(finding('dns.going-stale', { ...base, left, until, resolver: evidence.server }));
  if (having.length === 0 && aside.length > 0 && !isSeen)
    findings.push(
      finding('dns.wrong-host', {
        ...base,
        aside: named(aside),
        delegated: namedDelegated(evidence.servers),
      }),
    );
  if (lame.length > 0 && answering.length > 0)
    findings.push(finding('dns.server-lame', { ...base, lame: excerpt(lame.map(fault).join(', '), 240) }));
  return findings;
}

function named(servers: readonly ServerSeen[]): string {
  return excerpt(servers.map(({ name }) => name).join(', '), 240);
}

/** The servers to which the parent delegates, by name. */
export function namedDelegated(servers: readonly ServerSeen[]): string {
  return named(servers.filter(isDelegated));
}

function isDelegated({ role }: ServerSeen): boolean {
  return role === 'delegated';
}

function tell({ name, serial }: ServerSeen): string {
  return serial === null ? name : `${name} (serial ${String(serial)})`;
}

function fault({ name, failure, rcode, authoritative }: ServerSeen): string {
  if (failure !== null) return `${name} (${failure})`;
  if (rcode !== 'NOERROR' && rcode !== 'NXDOMAIN') return `${name} (${rcode ?? 'no answer'})`;
  return authoritative ? name : `${name} (does not answer for the zone)`;
}
