import type { DnsEvidence, PageEvidence } from '../core/badge/evidence.js';
import { Resolver } from './dns/resolver.js';
import { AddressGuard } from './guard.js';
import { readBody } from './http/body.js';
import { Dialler } from './http/dial.js';
import { exchange, type JsonAnswer, type JsonRequest } from './http/exchange.js';
import { hopTo, type HopBody } from './http/hop.js';
import { Politeness } from './http/politeness.js';
import { walk, type Walk } from './http/walk.js';
import type { NetSettings } from './settings.js';

/** The one way out of the program: resolver, guard, dialler and bounds put together. */
export class Net {
  readonly resolver: Resolver;
  private readonly dialler: Dialler;
  private readonly politeness = new Politeness();

  constructor(readonly settings: NetSettings) {
    this.resolver = new Resolver(settings);
    this.dialler = new Dialler(settings, this.resolver, new AddressGuard(settings.allow));
  }

  /** Asks for a page or a file, follows redirects, and reads what answers into text. */
  async page(url: string): Promise<PageEvidence> {
    const { bodyBytes } = this.settings.bounds;
    const seen = await this.stream(url, (source, headers) => readBody(source, headers, bodyBytes));
    return { kind: 'page', ...seen };
  }

  /** As `page`, but the body is handed to `read` as it comes. */
  stream<T>(url: string, read: HopBody<T>): Promise<Walk<T>> {
    return walk(
      url,
      (next, take) => this.politeness.within(next.host, () => hopTo(this.dialler, this.settings, next, take)),
      read,
    );
  }

  txt(name: string): Promise<DnsEvidence> {
    return this.resolver.txt(name);
  }

  json(request: JsonRequest): Promise<JsonAnswer> {
    return exchange(this.dialler, this.settings, request);
  }

  close(): Promise<void> {
    return this.dialler.close();
  }
}
