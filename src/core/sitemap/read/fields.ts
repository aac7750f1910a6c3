import type { SitemapKind } from '../reading.js';
import type { Entries } from './entries.js';
import type { Faults, Position } from './faults.js';
import { MAX_ADDRESSES } from './limits.js';
import type { UsualAddress } from './usual-form.js';

const NAMES: Readonly<Record<SitemapKind, ReadonlySet<string>>> = {
  urlset: new Set(['loc', 'lastmod', 'priority', 'changefreq']),
  index: new Set(['loc', 'lastmod']),
  rss: new Set(['link', 'pubDate']),
  atom: new Set(['updated']),
  text: new Set(),
};

/** Thrown to leave a file early; the finding is already noted. */
export class Enough extends Error {}

/** Notes what makes it of no use to read on, and throws Enough. */
export function stop(
  faults: Faults,
  code: Parameters<Faults['give']>[0],
  values: Parameters<Faults['give']>[1] = {},
): never {
  faults.give(code, values);
  throw new Enough(code);
}

/** What the fields of a file's entries say, whichever way they are read. */
export class Fields {
  kind: SitemapKind | null = null;
  /** Of an index: the sitemaps that it lists. */
  readonly children: string[] = [];
  /** Whether the entry that is read has an address. */
  hasLocation = false;
  private names = NAMES.text;

  constructor(
    private readonly entries: Entries,
    private readonly faults: Faults,
  ) {}

  /** The root was read: what kind of file it is. */
  of(kind: SitemapKind): void {
    this.kind = kind;
    this.entries.isFeed = kind === 'rss' || kind === 'atom';
    this.names = NAMES[kind];
  }

  /** Whether a field of that name is looked at. Of an entry that is a sitemap only address and date are. */
  has(name: string): boolean {
    return this.names.has(name);
  }

  /** An entry begins. */
  begins(): void {
    this.hasLocation = false;
    this.entries.begins();
  }

  /** @param at behind the field */
  settle(field: string, text: string, at: Position): void {
    switch (field) {
      case 'loc':
      case 'link':
        this.enter(text, at);
        return;
      case 'lastmod':
      case 'updated':
        this.entries.lastmod(text, at);
        return;
      case 'pubDate': {
        // RFC 822 as RSS 2.0 has it, which the language's own reading of dates takes.
        const time = /^(\w{3}, )?\d{1,2} \w{3} \d{2,4} /u.test(text) ? Date.parse(text) : NaN;
        if (Number.isNaN(time)) this.faults.fold('sitemap.bad-date', text, at);
        else this.entries.date(text, time, at);
        return;
      }
      case 'priority':
        this.entries.priority(text, at);
        return;
      case 'changefreq':
        this.entries.frequency(text, at);
    }
  }

  enter(location: string, at: Position): void {
    this.mayEnter();
    if (this.kind === 'index') {
      this.entries.child(location, at);
      this.children.push(location);
    } else this.entries.address(location, at);
  }

  /** As `enter`, of an address that is known to need no closer look. */
  enterUsual(address: UsualAddress, at: Position): void {
    this.mayEnter();
    this.entries.usualAddress(address, at);
  }

  /** Before an address is entered. */
  private mayEnter(): void {
    if (this.entries.count >= MAX_ADDRESSES) stop(this.faults, 'sitemap.too-many', { limit: MAX_ADDRESSES });
    this.hasLocation = true;
  }
}
