import { getServers } from 'node:dns';
import { isIP } from 'node:net';
import type { RecordType } from 'dns-packet';
import type { DnsEvidence } from '../../core/badge/probe/evidence.js';
import { parseEndpoint, type Endpoint, type NetSettings } from '../settings.js';
import { ask, DnsFailure, type DnsAnswer } from './query.js';
import { addressesIn, aliasesIn, negativeTtl, shortestTtl, txtRecords } from './records.js';
import { Remembered, type Held } from './remembered.js';

export type AddressLookup =
  | { readonly kind: 'found'; readonly addresses: readonly string[] }
  | {
      readonly kind: 'failed';
      readonly failure: 'name-missing' | 'no-address' | 'resolver-fails';
      readonly detail: string;
    };

/** What the resolver alone says of a name; the zone's own servers are asked besides. */
export type RecursiveAnswer = Omit<DnsEvidence, 'zone' | 'servers' | 'nearby' | 'wildcard' | 'wildAddresses'>;

/** Addresses that a resolver told hold for as long as it says, as they would there (RFC 1035 §3.2.1), but no longer than this. */
export const LONGEST_HELD_MS = 5_000;
const MOST_HELD = 1_000;

/**
 * Asks the configured recursive resolver. A check wants to see what is there now: only addresses of hosts are remembered, for a
 * moment, so that those who look at one host at once, or one after the other, ask for them once.
 */
export class Resolver {
  readonly server: Endpoint;
  private readonly hosts = new Remembered<AddressLookup>(MOST_HELD);

  constructor(private readonly settings: NetSettings) {
    this.server = systemOr(settings.resolver);
  }

  /** The addresses of a host, IPv4 first. An IP address answers for itself. */
  addresses(host: string): Promise<AddressLookup> {
    const literal = host.replace(/^\[|\]$/g, '');
    if (isIP(literal)) return Promise.resolve({ kind: 'found', addresses: [literal] });
    return this.hosts.get(host, () => this.lookUp(host));
  }

  /** Nothing but addresses holds: what is missing or fails is asked for again at once. */
  private async lookUp(host: string): Promise<Held<AddressLookup>> {
    const answers = await Promise.all([this.tryAsk(host, 'A'), this.tryAsk(host, 'AAAA')]);
    const found = answers.flatMap((answer) => ('packet' in answer ? addressesIn(answer) : []));
    if (found.length > 0) {
      // Half an answer holds no longer than it takes to read it.
      const ttls = answers.map((answer) => ('packet' in answer ? shortestTtl(answer) : 0));
      return {
        value: { kind: 'found', addresses: found },
        forMs: Math.min(...ttls.map((ttl) => ttl * 1000), LONGEST_HELD_MS),
      };
    }
    return { value: noneFor(answers[0]), forMs: 0 };
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

function noneFor(first: DnsAnswer | DnsFailure): AddressLookup {
  if (first instanceof DnsFailure)
    return { kind: 'failed', failure: 'resolver-fails', detail: first.message };
  if (first.rcode === 'NXDOMAIN') return { kind: 'failed', failure: 'name-missing', detail: first.rcode };
  if (first.rcode !== 'NOERROR')
    return { kind: 'failed', failure: 'resolver-fails', detail: `the resolver answered ${first.rcode}` };
  return { kind: 'failed', failure: 'no-address', detail: 'no A or AAAA record' };
}

function systemOr(configured: string | null): Endpoint {
  const text = configured ?? getServers()[0] ?? '127.0.0.1';
  return isIP(text) ? { host: text, port: 53 } : parseEndpoint(text);
}
