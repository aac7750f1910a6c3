import type { FindingCode } from '../../findings/catalogue.js';
import { folderOf } from '../../address/web-address.js';
import type { Faults, Position } from './faults.js';
import { MAX_LOCATION } from './limits.js';
import { Hash } from '../set/hash.js';
import { HashSet56 } from '../set/hash-set.js';
import type { Beside } from './beside.js';
import type { OnOtherHost } from '../reading.js';
import type { Listing } from './listing.js';
import { laidOut, USUAL, type Said, type UsualAddress } from './usual-form.js';

/** Characters that may stand in an address as they are (RFC 3986 §2); all others are to be escaped. */
const ESCAPED = /^[\w\-.~:/?#[\]@!$&'()*+,;=%]+$/u;
const HALF_ESCAPE = /%(?![0-9a-f]{2})/iu;
/** W3C Date and Time Formats, as the protocol asks for. */
const W3C_DATE = /^\d{4}(-\d\d(-\d\d(T\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d))?)?)?$/u;
const FREQUENCIES = new Set(['always', 'hourly', 'daily', 'weekly', 'monthly', 'yearly', 'never']);
const DAY_MS = 86_400_000;
/** Dates that are all the same say nothing; of fewer than this many nobody would wonder. */
const MANY_DATES = 10;
/** How many other hosts are told apart. */
const MOST_HOSTS = 20;

/** The entries of one file, judged one by one as they come: by the location rule, and by the rules for dates, priority and frequency. */
export class Entries {
  /** What addresses have to begin with: sitemaps.org protocol, "Sitemap file location". */
  readonly folder: string;
  private readonly origin: URL;
  private readonly seen: HashSet56;
  private readonly hash = new Hash();
  private readonly hosts = new Map<string, { count: number; first: string; at: Position }>();
  /** Whether the file stands at a variant that is not the front door, so that what it lists does too. */
  private readonly isAside: boolean;
  private readonly hasRules: boolean;
  private readonly listing: Listing | null;
  private newestTime = -Infinity;
  private firstDate: string | null = null;
  /** The newest date that was right. */
  private lastDate: string | null = null;
  private dates = 0;
  private isVaried = false;
  count = 0;
  /** Whether the file is a feed, for which other rules hold (https://www.sitemaps.org/protocol.html#otherformats). */
  isFeed = false;
  newestLastmod: string | null = null;

  constructor(
    url: string,
    private readonly faults: Faults,
    private readonly now: Date,
    private readonly beside: Beside = {},
  ) {
    this.origin = new URL(url);
    this.seen = beside.seen ?? new HashSet56();
    this.isAside = beside.door?.others.has(this.origin.origin) === true;
    this.folder = this.origin.origin + folderOf(this.origin.pathname);
    this.hasRules = this.isAside || beside.forbids !== undefined;
    this.listing = beside.listing ?? null;
    if (this.listing) faults.listing = this.listing;
  }

  /** An entry begins. */
  begins(): void {
    this.listing?.begins();
  }

  /** One address of a urlset, a feed or a text. */
  address(location: string, at: Position): void {
    this.count += 1;
    this.listing?.address(location, at.line);
    this.handOn(this.hash.of(location), location, at);
    this.location(location, at, 'address');
  }

  /** One address of a urlset that has nothing to be looked at: its letters are usual, and it is below the folder. */
  usualAddress(said: UsualAddress, at: Position): void {
    this.count += 1;
    if (this.listing) this.listing.address(said.toString(), at.line);
    this.handOn(this.hash.ofUnits(laidOut(), said.from, said.to), said, at);
    if (this.hasRules) this.rules(said.toString(), at);
  }

  /** One sitemap of an index. @returns whether it can be fetched at all */
  child(location: string, at: Position): void {
    this.count += 1;
    this.isNew(this.hash.of(location), location, at);
    this.location(location, at, 'child');
  }

  /** The other hosts on which addresses are, most of them first. */
  get onOtherHosts(): OnOtherHost[] {
    return [...this.hosts]
      .map(([host, { count, first, at }]) => ({ host, count, first, line: at.line, column: at.column }))
      .sort((a, b) => b.count - a.count);
  }

  private handOn(hash: Hash, said: Said, at: Position): void {
    if (!this.isNew(hash, said, at)) return;
    const isElsewhere = this.beside.isElsewhere?.(hash) === true;
    if (isElsewhere) this.faults.fold('sitemap.in-two', said.toString(), at);
    this.beside.take?.(hash, said, this.count, !isElsewhere);
  }

  private isNew(hash: Hash, said: Said, at: Position): boolean {
    if (!this.seen.add(hash)) return true;
    this.faults.fold('sitemap.twice', said.toString(), at);
    return false;
  }

  /** @param text as it was written */
  lastmod(text: string, at: Position): void {
    this.listing?.changed(text);
    // Neighbours often have the same date.
    if (text === this.lastDate) {
      this.dates += 1;
      return;
    }
    const time = W3C_DATE.test(text) ? Date.parse(text) : NaN;
    if (Number.isNaN(time)) {
      this.faults.fold('sitemap.bad-date', text, at);
      return;
    }
    this.date(text, time, at);
  }

  /** A date that is right by the rules of its own format. */
  date(text: string, time: number, at: Position): void {
    this.listing?.changed(text);
    // A day ahead may be the other side of the world.
    if (time > this.now.getTime() + DAY_MS) {
      this.faults.fold('sitemap.future-date', text, at);
      return;
    }
    this.dates += 1;
    this.lastDate = text;
    this.firstDate ??= text;
    if (text !== this.firstDate) this.isVaried = true;
    if (time > this.newestTime) {
      this.newestTime = time;
      this.newestLastmod = text;
    }
  }

  priority(text: string, at: Position): void {
    if (!/^(0(\.\d+)?|1(\.0+)?|\.\d+)$/u.test(text)) this.faults.fold('sitemap.bad-priority', text, at);
  }

  frequency(text: string, at: Position): void {
    if (!FREQUENCIES.has(text)) this.faults.fold('sitemap.bad-frequency', text, at);
  }

  /** What shows only once all are read. */
  end(): void {
    if (this.dates >= MANY_DATES && !this.isVaried && this.firstDate !== null)
      this.faults.give('sitemap.dates-alike', { count: this.dates, date: this.firstDate });
  }

  private location(location: string, at: Position, what: 'address' | 'child'): void {
    if (location.length < MAX_LOCATION && location.startsWith(this.folder) && USUAL.test(location)) {
      if (what === 'address') this.rules(location, at);
      else if (this.isAside) this.aside(location, at);
      return;
    }
    const code = this.fault(location, what);
    if (code === 'sitemap.not-at-door') this.aside(location, at);
    else if (code)
      this.faults.fold(code, location === '' ? '(nothing)' : location, at, { folder: this.folder });
    if (code === 'sitemap.other-host' || code === 'sitemap.child-elsewhere') this.elsewhere(location, at);
  }

  /** What an address is held against that is right by itself. */
  private rules(location: string, at: Position): void {
    const { forbids } = this.beside;
    if (forbids) this.forbidden(location, at, forbids);
    if (this.isAside) this.aside(location, at);
  }

  private forbidden(location: string, at: Position, forbids: NonNullable<Beside['forbids']>): void {
    const found = forbids(location.slice(this.origin.origin.length));
    if (!found) return;
    const { rule, line, whom, robots } = found;
    this.faults.fold('sitemap.forbidden-addresses', location, at, { rule, rule_line: line, whom, robots });
  }

  private aside(location: string, at: Position): void {
    const door = this.beside.door?.origin ?? '';
    this.faults.fold('sitemap.not-at-door', location, at, { door });
  }

  private elsewhere(location: string, at: Position): void {
    const { host } = new URL(location);
    const there = this.hosts.get(host);
    if (there) there.count += 1;
    else if (this.hosts.size < MOST_HOSTS)
      this.hosts.set(host, { count: 1, first: location, at: { line: at.line, column: at.column } });
  }

  private fault(location: string, what: 'address' | 'child'): FindingCode | null {
    if (location === '') return 'sitemap.no-location';
    if (location.length >= MAX_LOCATION) return 'sitemap.too-long';
    if (!/^https?:\/\//iu.test(location)) return 'sitemap.relative';
    if (!URL.canParse(location)) return 'sitemap.not-an-address';
    if (!ESCAPED.test(location) || HALF_ESCAPE.test(location)) return 'sitemap.unescaped';
    const { protocol, host, href, origin } = new URL(location);
    if (this.beside.door?.others.has(origin) === true) return 'sitemap.not-at-door';
    if (host !== this.origin.host) return what === 'child' ? 'sitemap.child-elsewhere' : 'sitemap.other-host';
    if (protocol !== this.origin.protocol) return 'sitemap.other-scheme';
    if (href.startsWith(this.folder)) return null;
    return this.isFeed ? 'sitemap.feed-outside' : 'sitemap.outside';
  }
}
