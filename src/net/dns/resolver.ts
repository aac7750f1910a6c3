import { getServers } from 'node:dns';
import { isIP } from 'node:net';
import type { RecordType } from 'dns-packet';
import type { DnsEvidence } from '../../core/badge/look/evidence.js';
import { parseEndpoint, type Endpoint, type NetSettings } from '../settings.js';
import { ask, DnsFailure, type DnsAnswer } from './query.js';
import { addressesIn, aliasesIn, negativeTtl, txtRecords } from './records.js';

export type AddressLookup =
  | { readonly kind: 'found'; readonly addresses: readonly string[] }
  | {
      readonly kind: 'failed';
      readonly failure: 'name-missing' | 'no-address' | 'resolver-fails';
      readonly detail: string;
    };

/** What the resolver alone says of a name; the zone's own servers are asked besides. */
export type RecursiveAnswer = Omit<DnsEvidence, 'zone' | 'servers' | 'nearby' | 'wildcard'>;

/** Asks the configured recursive resolver. Nothing is cached here: a check wants to see what is there now. */
export class Resolver {
  readonly server: Endpoint;

  constructor(private readonly settings: NetSettings) {
    this.server = systemOr(settings.resolver);
  }

  /** The addresses of a host, IPv4 first. An IP address answers for itself. */
  async addresses(host: string): Promise<AddressLookup> {
    const literal = host.replace(/^\[|\]$/g, '');
    if (isIP(literal)) return { kind: 'found', addresses: [literal] };
    const answers = await Promise.all([this.tryAsk(host, 'A'), this.tryAsk(host, 'AAAA')]);
    const found = answers.flatMap((answer) => ('packet' in answer ? addressesIn(answer) : []));
    if (found.length > 0) return { kind: 'found', addresses: found };
    const first = answers[0];
    if (first instanceof DnsFailure)
      return { kind: 'failed', failure: 'resolver-fails', detail: first.message };
    if (first.rcode === 'NXDOMAIN') return { kind: 'failed', failure: 'name-missing', detail: first.rcode };
    if (first.rcode !== 'NOERROR')
      return { kind: 'failed', failure: 'resolver-fails', detail: `the resolver answered ${first.rcode}` };
    return { kind: 'failed', failure: 'no-address', detail: 'no A or AAAA record' };
  }

  /** What stands in the TXT records at a name, as evidence. */
  async txt(name: string): Promise<RecursiveAnswer> {
    const server = `${this.server.host}:${String(this.server.port)}`;
    const answer = await this.tryAsk(name, 'TXT');
    if (answer instanceof DnsFailure) {
      return {
        kind: 'dns',
        name,
        rcode: null,
        records: [],
        aliases: [],
        negativeTtl: null,
        via: 'udp',
        server,
        failure: answer.kind,
      };
    }
    const { rcode, via } = answer;
    return {
      kind: 'dns',
      name,
      rcode,
      records: txtRecords(answer),
      aliases: aliasesIn(answer),
      negativeTtl: negativeTtl(answer),
      via,
      server,
      failure: null,
    };
  }

  private async tryAsk(name: string, type: RecordType): Promise<DnsAnswer | DnsFailure> {
    try {
      return await ask(this.server, name, type, this.settings.bounds.dnsMs);
    } catch (error) {
      if (error instanceof DnsFailure) return error;
      return new DnsFailure('unreachable', error instanceof Error ? error.message : String(error));
    }
  }
}

function systemOr(configured: string | null): Endpoint {
  const text = configured ?? getServers()[0] ?? '127.0.0.1';
  return isIP(text) ? { host: text, port: 53 } : parseEndpoint(text);
}
