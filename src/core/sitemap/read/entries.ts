import type { FindingCode } from '../../findings/catalogue.js';
import { folderOf } from '../../address/web-address.js';
import type { Faults, Position } from './faults.js';
import { MAX_LOCATION } from './limits.js';
import { Seen } from './seen.js';

/** What most addresses are made of: nothing in them needs a closer look. */
const USUAL = /^[\w\-.~:/?&=+,;@!*()]+$/u;
/** Characters that may stand in an address as they are (RFC 3986 §2); all others are to be escaped. */
const ESCAPED = /^[\w\-.~:/?#[\]@!$&'()*+,;=%]+$/u;
const HALF_ESCAPE = /%(?![0-9a-f]{2})/iu;
/** W3C Date and Time Formats, as the protocol asks for. */
const W3C_DATE = /^\d{4}(-\d\d(-\d\d(T\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d))?)?)?$/u;
const FREQUENCIES = new Set(['always', 'hourly', 'daily', 'weekly', 'monthly', 'yearly', 'never']);
const DAY_MS = 86_400_000;
/** Dates that are all the same say nothing; of fewer than this many nobody would wonder. */
const MANY_DATES = 10;

/** The entries of one file, judged one by one as they come: by the location rule, and by the rules for dates, priority and frequency. */
export class Entries {
  /** What addresses have to begin with: sitemaps.org protocol, "Sitemap file location". */
  readonly folder: string;
  private readonly origin: URL;
  private readonly seen = new Seen();
  private newestTime = -Infinity;
  private firstDate: string | null = null;
  /** The newest date that was right. */
  private lastDate: string | null = null;
  private dates = 0;
  private isVaried = false;
  count = 0;
  newestLastmod: string | null = null;

  constructor(
    url: string,
    private readonly faults: Faults,
    private readonly now: Date,
  ) {
    this.origin = new URL(url);
    this.folder = this.origin.origin + folderOf(this.origin.pathname);
  }

  /** One address of a urlset, a feed or a text. */
  address(location: string, at: Position): void {
    this.count += 1;
    this.once(location, at);
    this.location(location, at, 'address');
  }

  /** One sitemap of an index. @returns whether it can be fetched at all */
  child(location: string, at: Position): void {
    this.count += 1;
    this.once(location, at);
    this.location(location, at, 'child');
  }

  private once(location: string, at: Position): void {
    if (this.seen.add(location)) this.faults.fold('sitemap.twice', location, at);
  }

  /** @param text as it was written */
  lastmod(text: string, at: Position): void {
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
    if (location.length < MAX_LOCATION && location.startsWith(this.folder) && USUAL.test(location)) return;
    const code = this.fault(location, what);
    if (code) this.faults.fold(code, location === '' ? '(nothing)' : location, at, { folder: this.folder });
  }

  private fault(location: string, what: 'address' | 'child'): FindingCode | null {
    if (location === '') return 'sitemap.no-location';
    if (location.length >= MAX_LOCATION) return 'sitemap.too-long';
    if (!/^https?:\/\//iu.test(location)) return 'sitemap.relative';
    if (!URL.canParse(location)) return 'sitemap.not-an-address';
    if (!ESCAPED.test(location) || HALF_ESCAPE.test(location)) return 'sitemap.unescaped';
    const { protocol, host, href } = new URL(location);
    if (host !== this.origin.host) return what === 'child' ? 'sitemap.child-elsewhere' : 'sitemap.other-host';
    if (protocol !== this.origin.protocol) return 'sitemap.other-scheme';
    return href.startsWith(this.folder) ? null : 'sitemap.outside';
  }
}
