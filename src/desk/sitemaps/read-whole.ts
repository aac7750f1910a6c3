import { registrableOf } from '../../core/address/host.js';
import { finding } from '../../core/findings/catalogue.js';
import type { Finding } from '../../core/findings/finding.js';
import type { ListedColumns } from '../../core/sitemap/read/listing.js';
import { withLeave } from '../../core/sitemap/locations.js';
import { MAX_ADDRESSES } from '../../core/sitemap/read/limits.js';
import {
  childOf,
  foldChildren,
  sumOf,
  type FileReading,
  type WholeReading,
} from '../../core/sitemap/reading.js';
import { Fingerprint } from '../../core/sitemap/set/fingerprint.js';
import { picked } from '../../core/sitemap/set/sampler.js';
import type { Net } from '../../net/net.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import { read } from '../../readers/readers.js';
import type { CutAddresses } from '../../readers/address-chunks.js';
import { MOST_COMPARED, type SitemapOrder } from '../../readers/sitemap-protocol.js';
import { SitemapSession } from '../../readers/sitemap-session.js';
import { robotsAt } from '../context/robots.js';
import { notReached, readFile } from './read-file.js';

/** Children of one index that are read at the same time. Politeness bounds it again for each host. */
const CHILDREN_AT_ONCE = 2;
/** Hosts that are asked whether a sitemap may speak for them. */
const MOST_HOSTS_ASKED = 40;
/** An index that takes longer is left where it is, in milliseconds. */
const LONGEST = 30 * 60_000;

/** What a sitemap is read for, besides being judged. */
export interface Order extends SitemapOrder {
  readonly keeper?: Keeper;
  /** Takes the entries of each file, where they are to be looked at. */
  readonly shelf?: (url: string, place: number, listed: ListedColumns) => Promise<void>;
}

/** Who keeps the addresses. */
export interface Keeper {
  /** Names of the chunks that it has: they come without their content. */
  readonly known: readonly string[];
  /** Takes the addresses of one file, cut into chunks. */
  take(addresses: CutAddresses): Promise<void>;
}

/** A sitemap as it was read, and the pages of it that were picked for a sample. */
export interface WholeRead {
  readonly reading: WholeReading;
  readonly picked: readonly string[];
}

/** Reads a sitemap, with the sitemaps that it lists when it is an index. A broken child does not stop the others. */
export async function readWhole(net: Net, url: string, order: Order): Promise<WholeRead> {
  const { keeper, shelf, ...rest } = order;
  const given = {
    ...rest,
    ...(shelf ? { lists: true } : {}),
    ...(keeper ? { known: keeper.known } : {}),
  };
  const round = new Round(net, url, given, await SitemapSession.open(given), keeper ?? null, shelf ?? null);
  try {
    return await round.read();
  } finally {
    await round.close();
  }
}

/** What a host's robots.txt says, and the sitemaps that it names. */
interface RobotsRead {
  readonly named: ReadonlySet<string>;
}

/** One reading of one sitemap with all that belongs to it. */
class Round {
  private readonly ask: ReturnType<Net['sharing']>;
  private readonly begun = performance.now();
  private unread = 0;
  private readonly robots = new Map<string, Promise<RobotsRead>>();

  constructor(
    private readonly net: Net,
    private readonly url: string,
    private readonly order: SitemapOrder,
    private readonly session: SitemapSession,
    private readonly keeper: Keeper | null,
    private readonly shelf: Order['shelf'] | null,
  ) {
    this.ask = net.sharing();
  }

  async read(): Promise<WholeRead> {
    const reading = await this.whole();
    // What the thread did not come to the end of has none.
    const sum = await this.session.sum().catch(nothingOf);
    const many = (sum?.compared ?? 0) >= MOST_COMPARED && reading.kind === 'index';
    const { url } = this;
    const findings = many
      ? [
          ...reading.findings,
          finding('sitemap.many-addresses', { url, compared: MOST_COMPARED.toLocaleString('en') }),
        ]
      : reading.findings;
    const fingerprint = sum ? Fingerprint.of(sum.print) : '';
    return {
      reading: { ...reading, fingerprint, findings },
      picked: picked(sum?.candidates ?? [], this.order.sample),
    };
  }

  private async whole(): Promise<Omit<WholeReading, 'fingerprint'>> {
    const { url } = this;
    const top = await this.file(url, 0);
    if (top.kind !== 'index') {
      const { kind, entries, newestLastmod, extensions, findings } = top;
      return { kind, addresses: entries, children: [], newestLastmod, extensions, findings };
    }
    const urls = [...new Set(top.children)].slice(0, MAX_ADDRESSES);
    await this.session.many(urls.length * MAX_ADDRESSES);
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
      findings: [...top.findings, ...this.ofChildren(all)],
    };
  }

  async close(): Promise<void> {
    await this.session.close();
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
    return [...findings, ...foldChildren(all.map(({ reading }) => reading.findings))];
  }

  private async children(urls: readonly string[]): Promise<FileReading[]> {
    const readings: FileReading[] = [];
    const lanes = Array.from({ length: CHILDREN_AT_ONCE }, async (_, lane) => {
      for (let at = lane; at < urls.length; at += CHILDREN_AT_ONCE) {
        const child = urls[at] ?? '';
        const reason = await this.reasonAgainst(child);
        readings[at] = reason === null ? await this.file(child, at + 1) : notReached(child, reason);
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
    if (isSameDomain(child, this.url) || isNamed(await this.robotsOf(child), [child, this.url])) return null;
    return 'It is on another domain, whose robots.txt does not name it.';
  }

  /** @param place its number, from 1 for the sitemaps of an index */
  private async file(url: string, place: number): Promise<FileReading> {
    const own = await this.robotsOf(url);
    const { reading, kept, listed } = await readFile(this.net, this.session, url, place);
    if (kept) await this.keeper?.take(kept);
    if (listed) await this.shelf?.(url, place, listed);
    return { ...reading, findings: await this.withLeave(url, reading, own) };
  }

  /** The findings, with what robots.txt files allow taken off. They are asked for only where it matters. */
  private async withLeave(
    url: string,
    reading: FileReading,
    own: RobotsRead | null,
  ): Promise<readonly Finding[]> {
    const isOutside = reading.findings.some(({ code }) => code === 'sitemap.outside');
    if (!isOutside && reading.onOtherHosts.length === 0) return reading.findings;
    const names = [url, this.url];
    const leaves = await Promise.all(
      reading.onOtherHosts.map(async ({ host, first }) =>
        isNamed(await this.robotsOf(first), names) ? [host] : [],
      ),
    );
    const leave = { own: isNamed(own, names), hosts: new Set(leaves.flat()) };
    return withLeave(url, reading, leave);
  }

  /** The robots.txt beside an address, told to the reading thread too; null where too many were asked for already. */
  private robotsOf(url: string): Promise<RobotsRead | null> {
    const { origin } = new URL(url);
    const known = this.robots.get(origin);
    if (known) return known;
    if (this.robots.size >= MOST_HOSTS_ASKED) return Promise.resolve(null);
    const asked = this.readRobots(url, origin);
    this.robots.set(origin, asked);
    return asked;
  }

  private async readRobots(url: string, origin: string): Promise<RobotsRead> {
    const seen = await robotsAt(this.ask, url);
    try {
      await this.session.robots(origin, seen);
      return { named: new Set(await read('namedIn', seen)) };
    } catch (error) {
      if (error instanceof Overtaxed) return { named: new Set() };
      throw error;
    }
  }
}

function isNamed(robots: RobotsRead | null, urls: readonly string[]): boolean {
  return robots !== null && urls.some((url) => robots.named.has(url));
}

/** What there is of a reading whose thread was ended. */
function nothingOf(error: unknown): null {
  if (error instanceof Overtaxed) return null;
  throw error;
}

/** Whether two addresses belong to the same registrable domain. */
function isSameDomain(address: string, other: string): boolean {
  if (!URL.canParse(address)) return false;
  return registrableOf(new URL(address).hostname) === registrableOf(new URL(other).hostname);
}
