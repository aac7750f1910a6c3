import type { MessagePort } from 'node:worker_threads';
import { registrableOf } from '../core/address/host.js';
import { forbiddingOf, keptFromUs } from '../core/sitemap/forbidding.js';
import { SitemapBytesReader } from '../core/sitemap/bytes-reader.js';
import type { Beside } from '../core/sitemap/read/beside.js';
import { Listing } from '../core/sitemap/read/listing.js';
import { Fingerprint } from '../core/sitemap/set/fingerprint.js';
import { packAll } from './address-chunks.js';
import { Gathering } from '../core/sitemap/set/gathering.js';
import { Sampler } from '../core/sitemap/set/sampler.js';
import { HashSet56 } from '../core/sitemap/set/hash-set.js';
import { SharedHashSet } from '../core/sitemap/set/shared-hash-set.js';
import {
  MOST_COMPARED,
  type Answer,
  type FileRead,
  type Say,
  type SitemapOrder,
  type Sum,
} from './sitemap-protocol.js';

interface Open {
  readonly reader: SitemapBytesReader;
  readonly gathering: Gathering | null;
  readonly seen: HashSet56;
  readonly listing: Listing | null;
}

/** Runs in a worker thread until it is told to close: reads sitemaps piece by piece, with what belongs to all of them. */
export function readSitemaps({ port, order }: { port: MessagePort; order: SitemapOrder }): Promise<void> {
  const round = new Round(order);
  return new Promise((done) => {
    port.on('message', (say: Say) => {
      const { answer, transfer } = answerTo(round, say);
      port.postMessage(answer, transfer);
      if (say.kind !== 'close') return;
      port.close();
      done();
    });
  });
}

function answerTo(round: Round, say: Say): { answer: Answer; transfer: ArrayBuffer[] } {
  const { nth } = say;
  try {
    switch (say.kind) {
      case 'begin':
        break;
      case 'robots':
        round.robots(say.origin, say.robots);
        break;
      case 'open':
        round.open(say.file, say.url, say.type, say.place);
        break;
      case 'piece':
        // What the piece came in goes back, to bring another.
        return {
          answer: { nth, finished: round.take(say.file, say.bytes), room: say.bytes.buffer },
          transfer: [say.bytes.buffer],
        };
      case 'end': {
        const file = round.end(say.file);
        const transfer = (file.kept?.chunks ?? []).flatMap(({ packed }) => packed?.buffer ?? []);
        return { answer: { nth, file }, transfer };
      }
      case 'many':
        round.many(say.addresses);
        break;
      case 'sum':
        return { answer: { nth, sum: round.sum() }, transfer: [] };
      case 'close':
    }
    return { answer: { nth }, transfer: [] };
  } catch (error) {
    return { answer: { nth, fault: String(error instanceof Error ? error.stack : error) }, transfer: [] };
  }
}

/** What the files of one sitemap have in common while they are read. */
class Round {
  private readonly fingerprint = new Fingerprint();
  /** What other files had; of a sitemap by itself there is nothing. */
  private all = new SharedHashSet(0);
  private readonly sampler: Sampler;
  private readonly files = new Map<number, Open>();
  private readonly rules = new Map<
    string,
    { forbids: Beside['forbids']; kept: ReturnType<typeof keptFromUs> }
  >();
  /** Empty tables, to be used again. */
  private readonly spare: HashSet56[] = [];
  private keptCount = 0;
  /** Names of chunks that need not be kept once more. */
  private readonly known: Set<string>;

  constructor(private readonly order: SitemapOrder) {
    this.sampler = new Sampler(order.sample, order.seed);
    this.known = new Set(order.known);
  }

  robots(origin: string, robots: Parameters<typeof keptFromUs>[0]): void {
    this.rules.set(origin, { forbids: forbiddingOf(robots, this.order.agents), kept: keptFromUs(robots) });
  }

  /** Files that are held against one another are to be read. @param addresses that they may have, all together */
  many(addresses: number): void {
    this.all = new SharedHashSet(Math.min(MOST_COMPARED, addresses));
  }

  /** @param place its number in an index, from 1; 0 for the sitemap itself, which is held against no other */
  open(file: number, url: string, type: string | null, place: number): void {
    const { now, door } = this.order;
    const { origin, hostname } = new URL(url);
    const domain = registrableOf(hostname);
    const rules = this.rules.get(origin);
    const seen = this.spare.pop() ?? new HashSet56();
    const gathering = this.keptCount <= this.order.keeps ? new Gathering() : null;
    const listing = this.order.lists === true ? new Listing() : null;
    const reader = new SitemapBytesReader(url, type, now, {
      seen,
      ...(listing ? { listing } : {}),
      ...(door ? { door } : {}),
      ...(rules?.forbids ? { forbids: rules.forbids } : {}),
      ...(place === 0 ? {} : { isElsewhere: (hash) => this.all.add(hash) }),
      take: (hash, said, nth, isFirst) => {
        gathering?.push(said.toString());
        if (!isFirst) return;
        this.fingerprint.add(hash);
        if (!this.sampler.wants(hash)) return;
        const address = said.toString();
        // Of other domains no page is tried: a sitemap could send us anywhere.
        const isOwn = address.startsWith(origin);
        if (!isOwn && !isOfDomain(address, domain)) return;
        if (isOwn && rules?.kept?.(address.slice(origin.length)) === true) return;
        this.sampler.offer(hash, address, place, nth);
      },
    });
    this.files.set(file, { reader, gathering, seen, listing });
  }

  take(file: number, bytes: Uint8Array): boolean {
    const { reader } = this.opened(file);
    reader.write(bytes);
    return reader.finished;
  }

  end(file: number): FileRead {
    const { reader, gathering, seen, listing } = this.opened(file);
    this.files.delete(file);
    const reading = reader.end();
    seen.clear();
    this.spare.push(seen);
    return {
      reading,
      kept: gathering && reading.entries > 0 ? this.cut(gathering) : null,
      // An index has no addresses of its own.
      ...(listing && reading.kind !== 'index' ? { listed: listing.columns() } : {}),
    };
  }

  sum(): Sum {
    return {
      print: this.fingerprint.sums,
      candidates: this.sampler.candidates(),
      compared: this.all.size,
    };
  }

  private cut(gathering: Gathering): FileRead['kept'] {
    const cut = packAll(gathering.cut(), this.known);
    this.keptCount += cut.count;
    return cut;
  }

  private opened(file: number): Open {
    const open = this.files.get(file);
    if (!open) throw new Error(`file ${String(file)} was not opened`);
    return open;
  }
}

function isOfDomain(address: string, domain: string): boolean {
  return URL.canParse(address) && registrableOf(new URL(address).hostname) === domain;
}
