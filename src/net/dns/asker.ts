import type { RecordType } from 'dns-packet';
import type { AddressGuard } from '../guard.js';
import { reroute, type Endpoint, type NetSettings } from '../settings.js';
import { ask, DnsFailure, type DnsAnswer } from './query.js';
import { addressesIn, byTurns } from './records.js';
import { Remembered } from './remembered.js';

export type Asked =
  | { readonly kind: 'answer'; readonly answer: DnsAnswer }
  | { readonly kind: 'failed'; readonly failure: 'timed-out' | 'unreachable' | 'guarded' };

/** How long what the resolver says of zones above the registrable names is kept: they change once in years. */
const KEPT_MS = 10 * 60_000;
const MOST_KEPT = 500;

/** Asks the resolver, or a server of a zone directly; direct questions pass the address guard like every connection. */
export class Asker {
  private readonly kept = new Remembered<DnsAnswer | null>(MOST_KEPT);

  constructor(
    private readonly settings: NetSettings,
    private readonly resolver: Endpoint,
    private readonly guard: AddressGuard,
  ) {}

  /** What the resolver says, remembered for a while; null where it says nothing. For names that rarely change. */
  recursive(name: string, type: RecordType): Promise<DnsAnswer | null> {
    return this.kept.get(`${name} ${type}`, async () => {
      const value = await ask(this.resolver, name, type, this.settings.bounds.dnsMs).catch(() => null);
      return { value, forMs: value === null ? 0 : KEPT_MS };
    });
  }

  /** Addresses of a name server, the families by turns. */
  async addresses(name: string): Promise<string[]> {
    const answers = await Promise.all([this.recursive(name, 'A'), this.recursive(name, 'AAAA')]);
    return byTurns(answers.flatMap((answer) => (answer === null ? [] : addressesIn(answer))));
  }

  /** Asks one server itself at its addresses, one after the other until one answers (RFC 8305). Never throws. */
  async server(
    addresses: readonly string[],
    name: string,
    type: RecordType,
  ): Promise<Asked & { readonly address: string | null }> {
    let last: Asked & { address: string | null } = { kind: 'failed', failure: 'unreachable', address: null };
    for (const address of addresses) {
      last = { ...(await this.direct(address, name, type)), address };
      if (last.kind === 'answer') return last;
    }
    return last;
  }

  /** Asks at one address, without recursion. Never throws. */
  async direct(address: string, name: string, type: RecordType): Promise<Asked> {
    if (!this.guard.permits(address)) return { kind: 'failed', failure: 'guarded' };
    try {
      const to = reroute(this.settings.connect, address, 53);
      return { kind: 'answer', answer: await ask(to, name, type, this.settings.bounds.dnsMs, false) };
    } catch (error) {
      return { kind: 'failed', failure: error instanceof DnsFailure ? error.kind : 'unreachable' };
    }
  }
}
