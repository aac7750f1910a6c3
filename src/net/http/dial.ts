import { connect as connectPlain, isIP, type Socket } from 'node:net';
import { connect as connectTls, createSecureContext, rootCertificates, type SecureContext } from 'node:tls';
import { Pool, type Dispatcher } from 'undici';
import type { CertificateSeen, ReachFailure } from '../../core/badge/probe/evidence.js';
import type { Resolver } from '../dns/resolver.js';
import type { AddressGuard } from '../guard.js';
import { reroute, type NetSettings } from '../settings.js';
import { withPatience } from '../../cancellation/cancellation.js';
import { byTurns } from '../dns/records.js';
import { TargetFault } from '../targets/file-target.js';
import { certificateOf, judgeCertificate } from './certificate.js';
import { firstConnected } from './first-connected.js';

export type Dialled =
  | {
      readonly kind: 'ready';
      /** The addresses that are dialled, in the order in which they are tried. */
      readonly addresses: readonly string[];
      readonly dispatcher: Dispatcher;
    }
  | {
      readonly kind: 'failed';
      readonly address: string | null;
      readonly failure: ReachFailure;
      readonly detail: string;
    };

/** Connections to one host at once: as many as requests ever are under way at it. */
const MOST_CONNECTIONS = 16;
/** More pools than this are not kept; the oldest idle ones are closed. */
const MOST_POOLS = 256;
/** Addresses of one host that are tried, at most. */
const MOST_ADDRESSES = 4;

/** What the newest connection of a pool came to: kept as long as the pool. */
interface Seen {
  address: string | null;
  certificate: CertificateSeen | null;
}

/**
 * Resolves, guards and connects. The pool for a host dials the very addresses that were guarded, by turns of the families
 * (RFC 8305), so that a second look-up cannot swap them (no DNS rebinding between check and use).
 */
export class Dialler {
  private readonly pools = new Map<string, Pool>();
  private readonly seen = new Map<string, Seen>();
  /** Made once: parsing all authorities for every connection would cost more than the connection. */
  private readonly trust: SecureContext;

  constructor(
    private readonly settings: NetSettings,
    private readonly resolver: Resolver,
    private readonly guard: AddressGuard,
  ) {
    this.trust = createSecureContext(settings.ca === null ? {} : { ca: [...rootCertificates, settings.ca] });
  }

  async dial(url: URL): Promise<Dialled> {
    const found = await this.resolver.addresses(url.hostname);
    if (found.kind === 'failed')
      return { kind: 'failed', address: null, failure: found.failure, detail: found.detail };
    const permitted = found.addresses.filter((one) => this.guard.permits(one));
    if (permitted.length === 0) {
      return {
        kind: 'failed',
        address: found.addresses[0] ?? null,
        failure: 'guarded',
        detail: 'a private, local or reserved address',
      };
    }
    const addresses = byTurns(permitted).slice(0, MOST_ADDRESSES);
    return { kind: 'ready', addresses, dispatcher: this.poolFor(url, addresses) };
  }

  /** The addresses of a host that may be connected to. Throws CarryFault where there are none. */
  async permitted(host: string): Promise<string[]> {
    const found = await this.resolver.addresses(host);
    if (found.kind === 'failed') throw new TargetFault('unreached', `${host}: ${found.detail}`);
    const permitted = byTurns(found.addresses.filter((one) => this.guard.permits(one)));
    if (permitted.length > 0) return permitted.slice(0, MOST_ADDRESSES);
    throw new TargetFault(
      'unreached',
      `${host} is at a private, local or reserved address, which the settings do not allow.`,
    );
  }

  /** A plain connection to a host, for protocols other than HTTP. Throws CarryFault where there is none, or may be none. */
  async socket(host: string, port: number): Promise<Socket> {
    const permitted = await this.permitted(host);
    try {
      return await withPatience(this.settings.bounds.connectMs, async (signal) => {
        const { socket } = await firstConnected(
          permitted,
          (one) => connectPlain(reroute(this.settings.connect, one, port, host)),
          signal,
        );
        return socket;
      });
    } catch (error) {
      const says = error instanceof Error ? error.message : String(error);
      throw new TargetFault('unreached', `${host} could not be connected to: ${says}`);
    }
  }

  async close(): Promise<void> {
    const pools = [...this.pools.values()];
    this.pools.clear();
    await Promise.all(pools.map((pool) => pool.destroy()));
  }

  /** The address that the newest connection went to, and the certificate that was shown there; null where none was made. */
  seenAt(url: URL, addresses: readonly string[]): Readonly<Seen> {
    return this.seen.get(keyOf(url, addresses)) ?? { address: null, certificate: null };
  }

  private poolFor(url: URL, addresses: readonly string[]): Pool {
    const key = keyOf(url, addresses);
    const known = this.pools.get(key);
    if (known) return known;
    const pool = this.open(url, addresses);
    this.pools.set(key, pool);
    if (this.pools.size > MOST_POOLS) this.dropOldest();
    return pool;
  }

  private dropOldest(): void {
    const oldest = this.pools.entries().next().value;
    if (!oldest) return;
    this.pools.delete(oldest[0]);
    this.seen.delete(oldest[0]);
    oldest[1].close().catch(() => undefined);
  }

  private open(url: URL, addresses: readonly string[]): Pool {
    const { bounds } = this.settings;
    return new Pool(url.origin, {
      // How many are used is up to those who ask: two, or as many as a website bears.
      connections: MOST_CONNECTIONS,
      pipelining: 1,
      keepAliveTimeout: 2_000,
      keepAliveMaxTimeout: 5_000,
      headersTimeout: bounds.hopMs,
      bodyTimeout: bounds.hopMs,
      maxHeaderSize: bounds.headerBytes,
      connect: (_options: unknown, done: (error: Error | null, socket: Socket | null) => void) => {
        this.connect(url, addresses).then(
          (socket) => {
            done(null, socket);
          },
          (error: unknown) => {
            done(error instanceof Error ? error : new Error(String(error)), null);
          },
        );
      },
    } as Pool.Options);
  }

  /** Connects, over TLS where the address wants it. Throws what the network says, or what is wrong with the certificate. */
  private async connect(url: URL, addresses: readonly string[]): Promise<Socket> {
    const secure = url.protocol === 'https:';
    const port = url.port === '' ? (secure ? 443 : 80) : Number(url.port);
    const patience = new AbortController();
    const timer = setTimeout(() => {
      patience.abort(
        Object.assign(new Error('connecting took too long'), { code: 'UND_ERR_CONNECT_TIMEOUT' }),
      );
    }, this.settings.bounds.connectMs);
    try {
      const { address, socket } = await firstConnected(
        addresses,
        (one) => connectPlain(reroute(this.settings.connect, one, port, url.hostname)),
        patience.signal,
      );
      socket.setNoDelay(true);
      const seen: Seen = { address, certificate: null };
      this.seen.set(keyOf(url, addresses), seen);
      return secure ? await this.secured(url, socket, seen, patience.signal) : socket;
    } finally {
      clearTimeout(timer);
    }
  }

  private secured(url: URL, plain: Socket, seen: Seen, signal: AbortSignal): Promise<Socket> {
    return new Promise((resolve, reject) => {
      const host = url.hostname.replace(/^\[|\]$/gu, '');
      const socket = connectTls({
        socket: plain,
        host,
        // An address is no server name (RFC 6066 §3).
        ...(isIP(host) === 0 ? { servername: host } : {}),
        ALPNProtocols: ['http/1.1'],
        secureContext: this.trust,
        // Judged below, so that the certificate of a server that is not trusted is evidence too.
        rejectUnauthorized: false,
      });
      const fail = (error: Error) => {
        signal.removeEventListener('abort', abort);
        socket.on('error', () => undefined);
        socket.destroy();
        reject(error);
      };
      const abort = () => {
        fail(signal.reason as Error);
      };
      signal.addEventListener('abort', abort, { once: true });
      socket.once('error', fail);
      socket.once('secureConnect', () => {
        signal.removeEventListener('abort', abort);
        seen.certificate = certificateOf(socket);
        const fault = judgeCertificate(socket);
        if (fault) {
          fail(fault);
          return;
        }
        socket.removeListener('error', fail);
        resolve(socket);
      });
    });
  }
}

function keyOf(url: URL, addresses: readonly string[]): string {
  return `${url.origin}|${addresses.join(' ')}`;
}
