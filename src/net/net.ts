import { randomBytes } from 'node:crypto';
import type {
  Body,
  NearbyKind,
  NearbySeen,
  PageSeen,
  ServerSeen,
  TxtRecord,
} from '../core/badge/probe/evidence.js';
import type { Socket } from 'node:net';
import { Asker } from './dns/asker.js';
import { delegatedTo, type NamedServer } from './dns/delegation.js';
import { ask, DnsFailure } from './dns/query.js';
import { txtRecords } from './dns/records.js';
import { Resolver, type RecursiveAnswer } from './dns/resolver.js';
import { namesSeen, zoneSeen, type ZoneSeen } from './dns/servers.js';
import { AddressGuard } from './guard.js';
import { readBody } from './http/body.js';
import { Dialler } from './http/dial.js';
import { exchange, type JsonAnswer, type JsonRequest } from './http/exchange.js';
import { hopTo, type HopBody, type HopResult } from './http/hop.js';
import { pastCaches } from './http/past-caches.js';
import { Politeness } from './http/politeness.js';
import { walk, type Walk } from './http/walk.js';
import { secure, type Secured } from './targets/secured.js';
import { TargetFault } from './targets/file-target.js';
import { reroute, type NetSettings } from './settings.js';

/** An agent that every website takes for a browser; used only to learn whether we are kept out for not being one. */
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Safari/537.36';

/** How a page is asked for, besides the ordinary way. */
export type Manner = 'ordinary' | 'past-caches' | 'as-browser';

/** The one way out of the program: resolver, guard, dialler and bounds put together. */
export class Net {
  readonly resolver: Resolver;
  private readonly asker: Asker;
  private readonly dialler: Dialler;
  private readonly politeness = new Politeness();

  constructor(readonly settings: NetSettings) {
    const guard = new AddressGuard(settings.allow);
    this.resolver = new Resolver(settings);
    this.asker = new Asker(settings, this.resolver.server, guard);
    this.dialler = new Dialler(settings, this.resolver, guard);
  }

  /** Asks for a page or a file, follows redirects, and reads what answers into text. */
  page(url: string, manner: Manner = 'ordinary'): Promise<PageSeen> {
    const { bodyBytes } = this.settings.bounds;
    return this.stream(url, (source, headers) => readBody(source, headers, bodyBytes), manner);
  }

  /** Asks for pages as `page` does, but over all calls of what it gives no address is asked for twice. */
  sharing(): (url: string) => Promise<PageSeen> {
    const { bodyBytes } = this.settings.bounds;
    const hops = new Map<string, Promise<HopResult<Body>>>();
    const once = (next: URL, take: HopBody<Body>): Promise<HopResult<Body>> => {
      const known =
        hops.get(next.href) ??
        this.politeness.within(next.host, () => hopTo(this.dialler, this.settings, next, take));
      hops.set(next.href, known);
      return known;
    };
    return (url) => walk(url, once, (source, headers) => readBody(source, headers, bodyBytes));
  }

  /**
   * Asks for one address, and no other: where it is a redirect, that is its answer.
   * @param atOnce requests that its host bears at the same time, where that is known to be more than of any host
   */
  one(url: string, atOnce?: number): Promise<HopResult<Body>> {
    const next = new URL(url);
    const { bodyBytes } = this.settings.bounds;
    return this.politeness.within(
      next.host,
      () =>
        hopTo(this.dialler, this.settings, next, (source, headers) => readBody(source, headers, bodyBytes)),
      atOnce,
    );
  }

  /** As `page`, but the body is handed to `read` as it comes. */
  stream<T>(url: string, read: HopBody<T>, manner: Manner = 'ordinary'): Promise<Walk<T>> {
    const fresh = manner === 'past-caches' ? pastCaches(url) : null;
    const extra = manner === 'as-browser' ? { 'user-agent': BROWSER } : (fresh?.headers ?? {});
    return walk(
      fresh?.url ?? url,
      (next, take) =>
        this.politeness.within(next.host, () => hopTo(this.dialler, this.settings, next, take, extra)),
      read,
    );
  }

  /** A connection to a host by name, guarded like every other. Throws CarryFault. */
  socket(host: string, port: number): Promise<Socket> {
    return this.dialler.socket(host, port);
  }

  /** The same under TLS, with the certificate held to what was pinned. Throws CarryFault. */
  async secured(socket: Socket, host: string, pin: string | null): Promise<Secured> {
    return secure(socket, host, pin, this.settings.ca);
  }

  /** What one name server says of the TXT records at a name, asked by the name of the server. Throws CarryFault. */
  async txtAt(host: string, port: number, name: string): Promise<TxtRecord[]> {
    const { connect, bounds } = this.settings;
    for (const address of await this.dialler.permitted(host))
      try {
        const answer = await ask(reroute(connect, address, port, host), name, 'TXT', bounds.dnsMs, false);
        return txtRecords(answer);
      } catch (error) {
        if (!(error instanceof DnsFailure)) throw error;
      }
    throw new TargetFault('unreached', `The name server ${host} does not answer.`);
  }

  /** What the resolver says of the TXT records at a name. */
  txt(name: string): Promise<RecursiveAnswer> {
    return this.resolver.txt(name);
  }

  /**
   * The addresses that a host has from a wildcard record, as far as can be seen: those that a name beside it has that nobody made. Empty
   * for the zone itself, and where it has others.
   */
  async wildAddresses(host: string, zone: string): Promise<string[]> {
    if (host === zone) return [];
    const beside = `yb${randomBytes(4).toString('hex')}.${host.slice(host.indexOf('.') + 1)}`;
    const [own, made] = await Promise.all([this.resolver.addresses(host), this.resolver.addresses(beside)]);
    if (own.kind === 'failed' || made.kind === 'failed') return [];
    return own.addresses.filter((one) => made.addresses.includes(one));
  }

  /** The servers that look after a name, by what the zone above it says, without asking them. */
  delegatedTo(name: string): Promise<string[]> {
    return delegatedTo(this.asker, name);
  }

  /** What every server of the zone says of them, each by itself. */
  zone(name: string, former: readonly NamedServer[] = []): Promise<ZoneSeen> {
    return zoneSeen(this.asker, name, former);
  }

  /** What stands at other names, asked of the zone's own servers where they answer. */
  names(
    names: readonly { readonly name: string; readonly kind: NearbyKind }[],
    servers: readonly ServerSeen[],
  ): Promise<NearbySeen[]> {
    return namesSeen(this.asker, names, servers, async (name) => (await this.resolver.txt(name)).records);
  }

  json(request: JsonRequest): Promise<JsonAnswer> {
    return exchange(this.dialler, this.settings, request);
  }

  close(): Promise<void> {
    return this.dialler.close();
  }
}
