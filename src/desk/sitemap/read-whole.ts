import { registrableOf } from '../../core/address/host.js';
import { finding } from '../../core/findings/catalogue.js';
import type { Finding } from '../../core/findings/finding.js';
import { forbiddingOf, keptFromUs, namesSitemap } from '../../core/sitemap/forbidding.js';
import { withLeave } from '../../core/sitemap/locations.js';
import type { Beside } from '../../core/sitemap/read/beside.js';
import { MAX_ADDRESSES } from '../../core/sitemap/read/limits.js';
import {
  childOf,
  foldChildren,
  sumOf,
  type FileReading,
  type WholeReading,
} from '../../core/sitemap/reading.js';
import { Fingerprint } from '../../core/sitemap/set/fingerprint.js';
import { Sampler } from '../../core/sitemap/set/sampler.js';
import { Seen } from '../../core/sitemap/set/seen.js';
import type { EngineAgent, RobotsSeen } from '../../core/variants/keeping-out.js';
import type { Net } from '../../net/net.js';
import { robotsAt } from '../robots.js';
import { Gathering } from './gathering.js';
import { notReached, readFile } from './read-file.js';

/** Children of one index that are read at the same time. Politeness bounds it again for each host. */
const CHILDREN_AT_ONCE = 2;
/** So many addresses of an index are held against one another, in some forty megabytes; later ones against these. */
const MOST_COMPARED = 5_000_000;

/** Hosts that are asked whether a sitemap may speak for them. */
const MOST_HOSTS_ASKED = 40;
/** An index that takes longer is left where it is, in milliseconds. */
const LONGEST = 30 * 60_000;

/** What a sitemap is read for, besides being judged. */
export interface Order {
  readonly now: Date;
  readonly agents: readonly EngineAgent[];
  readonly door?: Beside['door'];
  readonly sampler?: Sampler;
  readonly keeper?: Keeper;
}

/** Who keeps the addresses. */
export interface Keeper {
  /** Whether it wants no more. */
  readonly isFull: boolean;
  /** Takes the addresses of one file. */
  take(addresses: Gathering): Promise<void>;
}

/** Reads a sitemap, with the sitemaps that it lists when it is an index. A broken child does not stop the others. */
export function readWhole(net: Net, url: string, order: Order): Promise<WholeReading> {
  return new Round(net, url, order).read();
}

/** One reading of one sitemap with all that belongs to it. */
class Round {
  private readonly ask: ReturnType<Net['sharing']>;
  private readonly begun = performance.now();
  private unread = 0;
  private readonly robots = new Map<string, Promise<RobotsSeen>>();
  private readonly fingerprint = new Fingerprint();
  private readonly all = new Seen();

  constructor(
    private readonly net: Net,
    private readonly url: string,
    private readonly order: Order,
  ) {
    this.ask = net.sharing();
  }

  async read(): Promise<WholeReading> {
    const { url } = this;
    const top = await this.file(url, 0);
    if (top.kind !== 'index') {
      const { kind, entries, newestLastmod, extensions, findings } = top;
      const fingerprint = this.fingerprint.toString();
      return { kind, addresses: entries, children: [], newestLastmod, extensions, fingerprint, findings };
    }
    const urls = [...new Set(top.children)].slice(0, MAX_ADDRESSES);
    const readings = await this.children(urls);
    const all = readings.map((reading, at) => ({ url: urls[at] ?? '', reading }));
    const counted = readings.filter(({ kind }) => kind !== null && kind !== 'index');
    const dates = [top, ...readings].flatMap(({ newestLastmod }) => newestLastmod ?? []);
    return {
      kind: 'index',
      addresses: counted.reduce((sum, { entries }) => sum + entries, 0),
      children: all.map((one) => childOf(one.url, one.reading)),
      newestLastmod: dates.sort((a, b) => Date.parse(a) - Date.parse(b)).at(-1) ?? null,
      extensions: sumOf(readings.map((one) => one.extensions)),
      fingerprint: this.fingerprint.toString(),
      findings: [...top.findings, ...this.ofChildren(all)],
    };
  }

  private ofChildren(all: readonly { url: string; reading: FileReading }[]): Finding[] {
    const { url } = this;
    const broken = all.filter(({ reading }) => reading.findings.some((one) => one.grade === 'stops'));
    const nested = all.find(({ reading }) => reading.kind === 'index');
    const findings: Finding[] = [];
    if (broken[0])
      findings.push(
        finding('sitemap.child-fails', {
          url,
          count: broken.length,
          children: all.length,
          child: broken[0].url,
        }),
      );
    if (nested) findings.push(finding('sitemap.nested-index', { url, child: nested.url }));
    if (this.unread > 0)
      findings.push(finding('sitemap.not-all-read', { url, children: all.length, unread: this.unread }));
    if (this.all.size >= MOST_COMPARED)
      findings.push(finding('sitemap.many-addresses', { url, compared: MOST_COMPARED.toLocaleString('en') }));
    return [...findings, ...foldChildren(all.map(({ reading }) => reading.findings))];
  }

  private async children(urls: readonly string[]): Promise<FileReading[]> {
    const readings: FileReading[] = [];
    const lanes = Array.from({ length: CHILDREN_AT_ONCE }, async (_, lane) => {
      const seen = new Seen();
      for (let at = lane; at < urls.length; at += CHILDREN_AT_ONCE) {
        const child = urls[at] ?? '';
        const reason = await this.reasonAgainst(child);
        readings[at] = reason === null ? await this.file(child, at + 1, seen) : notReached(child, reason);
        seen.clear();
      }
    });
    await Promise.all(lanes);
    return readings;
  }

  /** Why one sitemap of the index is not asked for; null where it is. A hostile index could send us anywhere. */
  private async reasonAgainst(child: string): Promise<string | null> {
    if (!URL.canParse(child)) return `“${child.slice(0, 80)}” in ${this.url} is not a whole address.`;
    if (performance.now() - this.begun > LONGEST) {
      this.unread += 1;
      return 'The index takes too long; it was not asked for.';
    }
    if (isSameDomain(child, this.url) || namesSitemap(await this.robotsOf(child), [child, this.url]))
      return null;
    return 'It is on another domain, whose robots.txt does not name it.';
  }

  /**
   * @param file its number, from 1 for the sitemaps of an index
   * @param seen an empty table for its addresses
   */
  private async file(url: string, file: number, seen = new Seen()): Promise<FileReading> {
    const { now, agents, door, sampler, keeper } = this.order;
    const own = await this.robotsOf(url);
    const forbids = forbiddingOf(own, agents);
    const keptFrom = keptFromUs(own);
    const { origin } = new URL(url);
    const gathering = keeper?.isFull === false ? new Gathering() : null;
    const reading = await readFile(this.net, url, now, {
      seen,
      ...(door ? { door } : {}),
      ...(forbids ? { forbids } : {}),
      ...(file === 0 ? {} : { isElsewhere: (hash) => this.isElsewhere(hash) }),
      take: (hash, address, nth, isFirst) => {
        gathering?.push(address);
        if (!isFirst) return;
        this.fingerprint.add(hash);
        // Of other domains no page is tried: a sitemap could send us anywhere.
        const isOwn = address.startsWith(origin);
        if (!isOwn && !isSameDomain(address, url)) return;
        if (isOwn && keptFrom?.(address.slice(origin.length)) === true) return;
        sampler?.offer(hash, address, file, nth);
      },
    });
    if (gathering && reading.entries > 0) await keeper?.take(gathering);
    return { ...reading, findings: await this.withLeave(url, reading, own) };
  }

  private isElsewhere(hash: Parameters<NonNullable<Beside['isElsewhere']>>[0]): boolean {
    if (this.all.size >= MOST_COMPARED) return this.all.has(hash);
    return this.all.add(hash);
  }

  /** The findings, with what robots.txt files allow taken off. They are asked for only where it matters. */
  private async withLeave(
    url: string,
    reading: FileReading,
    own: RobotsSeen | null,
  ): Promise<readonly Finding[]> {
    const isOutside = reading.findings.some(({ code }) => code === 'sitemap.outside');
    if (!isOutside && reading.onOtherHosts.length === 0) return reading.findings;
    const names = [url, this.url];
    const leaves = await Promise.all(
      reading.onOtherHosts.map(async ({ host, first }) =>
        namesSitemap(await this.robotsOf(first), names) ? [host] : [],
      ),
    );
    const leave = { own: namesSitemap(own, names), hosts: new Set(leaves.flat()) };
    return withLeave(url, reading, leave);
  }

  /** The robots.txt beside an address; null where too many were asked for already. */
  private robotsOf(url: string): Promise<RobotsSeen | null> {
    const { origin } = new URL(url);
    const known = this.robots.get(origin);
    if (known) return known;
    if (this.robots.size >= MOST_HOSTS_ASKED) return Promise.resolve(null);
    const asked = robotsAt(this.ask, url);
    this.robots.set(origin, asked);
    return asked;
  }
}

/** Whether two addresses belong to the same registrable domain. */
function isSameDomain(address: string, other: string): boolean {
  if (!URL.canParse(address)) return false;
  return registrableOf(new URL(address).hostname) === registrableOf(new URL(other).hostname);
}
