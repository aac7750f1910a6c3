import type { TxtRecord } from '../../core/badge/probe/evidence.js';
import { plain } from './names.js';
import type { DnsAnswer } from './query.js';

/** The addresses in an answer, IPv4 and IPv6. */
export function addressesIn(answer: DnsAnswer): string[] {
  return (answer.packet.answers ?? []).flatMap((record) =>
    record.type === 'A' || record.type === 'AAAA' ? [record.data] : [],
  );
}

/** Addresses with the two families by turns, as they are tried (RFC 8305 §4): who is reachable by one alone is reached. */
export function byTurns(addresses: readonly string[]): string[] {
  const families = [false, true].map((six) => addresses.filter((one) => one.includes(':') === six));
  const longest = Math.max(...families.map(({ length }) => length));
  return Array.from({ length: longest }, (_, at) => families.flatMap((family) => family[at] ?? [])).flat();
}

/** The alias chain in an answer, first to last. */
export function aliasesIn(answer: DnsAnswer): string[] {
  return (answer.packet.answers ?? []).flatMap((record) => (record.type === 'CNAME' ? [record.data] : []));
}

/** The TXT records in an answer, the strings of each joined. */
export function txtRecords(answer: DnsAnswer): TxtRecord[] {
  return (answer.packet.answers ?? []).flatMap((record) => {
    if (record.type !== 'TXT') return [];
    const strings = Array.isArray(record.data) ? record.data : [record.data];
    return [
      { value: Buffer.concat(strings.map((one) => Buffer.from(one))).toString('utf8'), ttl: record.ttl ?? 0 },
    ];
  });
}

/** How many seconds the answer holds: as long as the record in it that holds least (RFC 1035 §3.2.1); for ever where it has none. */
export function shortestTtl({ packet }: DnsAnswer): number {
  return Math.min(...(packet.answers ?? []).map((record) => ('ttl' in record ? (record.ttl ?? 0) : 0)));
}

/** RFC 2308 §5: the lesser of the SOA's own TTL and its last field. */
export function negativeTtl({ packet }: DnsAnswer): number | null {
  const soa = (packet.authorities ?? []).find((record) => record.type === 'SOA');
  return soa ? Math.min(soa.ttl ?? 0, soa.data.minimum ?? 0) : null;
}

/** The names of servers in a section, lower case. */
export function serverNames(records: DnsAnswer['packet']['answers']): string[] {
  return (records ?? []).flatMap((record) => (record.type === 'NS' ? [plain(record.data)] : []));
}
