import { connect as connectPlain, type Socket } from 'node:net';
import {
  connect as connectTls,
  createSecureContext,
  rootCertificates,
  TLSSocket,
  type SecureContext,
} from 'node:tls';
import { Pool, type Dispatcher } from 'undici';
import type { CertificateSeen, ReachFailure } from '../../core/badge/look/evidence.js';
import type { Resolver } from '../dns/resolver.js';
import type { AddressGuard } from '../guard.js';
import { reroute, type NetSettings } from '../settings.js';
import { certificateOf, judgeCertificate } from './certificate.js';

export type Dialled =
  | { readonly kind: 'ready'; readonly address: string; readonly dispatcher: Dispatcher }
  | {
      readonly kind: 'failed';
      readonly address: string | null;
      readonly failure: ReachFailure;
      readonly detail: string;
    };

/** More pools than this are not kept; the oldest idle ones are closed. */
const MOST_POOLS = 256;

/**
 * Resolves, guards and connects. The pool for a host dials the very address that was guarded,
 * so that a second look-up cannot swap it (no DNS rebinding between check and use).
 */
export class Dialler {
  private readonly pools = new Map<string, Pool>();
  /** What each secure server showed at its newest connection, kept as long as its pool. */
  private readonly certificates = new Map<string, CertificateSeen>();
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
    const address = found.addresses.find((one) => this.guard.permits(one));
    if (address === undefined) {
      const refused = found.addresses[0] ?? null;
      return {
        kind: 'failed',
        address: refused,
        failure: 'guarded',
        detail: 'a private, local or reserved address',
      };
    }
    return { kind: 'ready', address, dispatcher: this.poolFor(url, address) };
  }

  async close(): Promise<void> {
    const pools = [...this.pools.values()];
    this.pools.clear();
    await Promise.all(pools.map((pool) => pool.destroy()));
  }

  /** The certificate that was shown at the newest connection to an address; null where none was made. */
  certificateOf(url: URL, address: string): CertificateSeen | null {
    return this.certificates.get(keyOf(url, address)) ?? null;
  }

  private poolFor(url: URL, address: string): Pool {
    const key = keyOf(url, address);
    const known = this.pools.get(key);
    if (known) return known;
    const pool = this.open(url, address);
    this.pools.set(key, pool);
    if (this.pools.size > MOST_POOLS) this.dropOldest();
    return pool;
  }

  private dropOldest(): void {
    const oldest = this.pools.entries().next().value;
    if (!oldest) return;
    this.pools.delete(oldest[0]);
    this.certificates.delete(oldest[0]);
    void oldest[1].close();
  }

  private open(url: URL, address: string): Pool {
    const { bounds } = this.settings;
    return new Pool(url.origin, {
      connections: 4,
      pipelining: 1,
      keepAliveTimeout: 2_000,
      keepAliveMaxTimeout: 5_000,
      headersTimeout: bounds.hopMs,
      bodyTimeout: bounds.hopMs,
      maxHeaderSize: bounds.headerBytes,
      connect: (_options: unknown, done: (error: Error | null, socket: Socket | null) => void) => {
        this.connect(url, address, done);
      },
    } as Pool.Options);
  }

  private connect(
    url: URL,
    address: string,
    done: (error: Error | null, socket: Socket | null) => void,
  ): void {
    const secure = url.protocol === 'https:';
    const port = url.port === '' ? (secure ? 443 : 80) : Number(url.port);
    const to = reroute(this.settings.connect, address, port, url.hostname);
    const socket = secure
      ? connectTls({
          host: to.host,
          port: to.port,
          servername: url.hostname,
          ALPNProtocols: ['http/1.1'],
          secureContext: this.trust,
          // Judged below, so that the certificate of a server that is not trusted is evidence too.
          rejectUnauthorized: false,
        })
      : connectPlain({ host: to.host, port: to.port });
    const timer = setTimeout(() => {
      socket.destroy(
        Object.assign(new Error('connecting took too long'), { code: 'UND_ERR_CONNECT_TIMEOUT' }),
      );
    }, this.settings.bounds.connectMs);
    let settled = false;
    const settle = (error: Error | null) => {
      if (settled) return;
      settled = true;
      clearTimeout(timer);
      done(error, error ? null : socket);
    };
    socket.setNoDelay(true);
    socket.once(secure ? 'secureConnect' : 'connect', () => {
      if (!(socket instanceof TLSSocket)) return void settle(null);
      const shown = certificateOf(socket);
      if (shown) this.certificates.set(keyOf(url, address), shown);
      const fault = judgeCertificate(socket);
      if (fault) socket.destroy();
      settle(fault);
    });
    socket.once('error', settle);
  }
}

function keyOf(url: URL, address: string): string {
  return `${url.origin}|${address}`;
}
