import { MAX_LOCATION } from '../read/limits.js';
import { Hash } from '../set/hash.js';
import { Doubles } from './doubles.js';
import { PathSessions } from './path-sessions.js';
import { Seen } from '../set/seen.js';

/** Why an address does not go into a made sitemap. */
export const LEFT_OUT = [
  'forbidden',
  'outside',
  'too-deep',
  'too-long',
  'endless',
  'repeating',
  'parameters',
  'no-page',
  'gone',
  'refused',
  'no-answer',
  'redirect',
  'sent-on',
  'stays-away',
  'canonical',
  'double',
  'not-reached',
] as const;
export type LeftOut = (typeof LEFT_OUT)[number];

/** How an address was found. */
export const FOUND_BY = ['door', 'link', 'menu', 'sitemap', 'feed', 'list', 'hand'] as const;
export type FoundBy = (typeof FOUND_BY)[number];

/** Where an address was found. */
export interface Via {
  readonly by: FoundBy;
  /** Links from where it began. */
  readonly depth: number;
  /** The address of the page that links to it; null where none does. */
  readonly from: string | null;
  /** How many addresses of one shape led here one after the other. */
  readonly run: number;
}

/** What becomes of an address that was found. */
export type Admission =
  | { readonly kind: 'known' }
  /** Another website's. */
  | { readonly kind: 'elsewhere' }
  | {
      readonly kind: 'new';
      readonly url: string;
      readonly depth: number;
      readonly run: number;
      readonly out: LeftOut | null;
      readonly detail: string | null;
    };

/** What bounds the ways of one gathering. */
export interface Bounds {
  readonly door: string;
  /** Origins at which the same website answers. */
  readonly others: ReadonlySet<string>;
  readonly depth: number;
  /** What the robots.txt keeps us or engines from; the line that decides. */
  readonly forbids: ((path: string) => string | null) | undefined;
}

/** Addresses of one shape that lead to one another, such as the months of a calendar, are followed so far. */
const LONGEST_RUN = 60;
/** Where so many addresses of one shape lead to nothing, and none to anything, the rest of them is not asked for. */
const MOST_GONE = 50;
/** Addresses with two parameters or more that one path may have: more are the same things in another order. */
const MOST_MIXED = 300;
/** Paths whose parameters are told apart, and shapes of addresses. */
const MOST_PATHS = 50_000;
/** A name of a folder that comes so often in one path is written by a link that goes round in itself. */
const MOST_ALIKE = 4;
const SESSION = /^(?:phpsessid|j?session_?id|sid)$/iu;
/** A parameter of a part of a path (RFC 3986 §3.3), and a part of its own in brackets. */
const SESSIONS_IN_PATHS = [
  /;(?:phpsessid|j?session_?id|sid)=[^/?;]*/iu,
  /\/\((?:[a-z]\([\w-]{12,}\))+\)(?=\/|$)/iu,
];
/** Files that are none of an engine's pages: what a page is made of, archives, programs. */
const NO_PAGE =
  /\.(?:avif|bmp|css|csv|dmg|eot|exe|gif|gz|ico|iso|jpe?g|js|json|map|mjs|mov|mp[34]|mpe?g|msi|ogg|ogv|otf|png|rar|svg|swf|tar|tiff?|ttf|txt|wasm|wav|webm|webp|woff2?|xml|zip|7z)$/iu;

/**
 * Decides which of the addresses that a gathering meets are worth going to. Holds 56 bits of each, and of parameters as much as
 * tells whether they make a difference, so that a website without end costs no more than its bounds.
 */
export class Ways {
  private readonly seen = new Seen();
  private readonly hash = new Hash();
  private readonly ends = new Map<string, { gone: number; there: number }>();
  private readonly mixed = new Map<string, number>();
  private readonly doubles = new Doubles();
  private readonly sessions = new PathSessions();
  private readonly folder: string;
  private readonly origin: string;
  /** What was taken off addresses or left out, by what it is: for the report. */
  readonly named = new Map<
    string,
    {
      readonly kind: 'session' | 'idle' | 'endless' | 'parameters' | 'variant';
      count: number;
      readonly first: string;
    }
  >();

  constructor(private readonly bounds: Bounds) {
    const door = new URL(bounds.door);
    this.origin = door.origin;
    this.folder = door.pathname.slice(0, door.pathname.lastIndexOf('/') + 1);
  }

  /** Addresses that are known. */
  get size(): number {
    return this.seen.size;
  }

  /** Knows an address without going there: what an earlier process found. */
  know(url: string): void {
    this.seen.add(this.hash.of(url));
  }

  /** @param found a whole web address */
  admit(found: string, via: Via): Admission {
    const url = this.settled(found);
    if (url === null) return { kind: 'elsewhere' };
    const text = sound(url.href);
    if (this.seen.add(this.hash.of(text))) return { kind: 'known' };
    const run = via.from !== null && shapeOf(via.from) === shapeOf(text) ? via.run + 1 : 0;
    const { out, detail } = this.reasonAgainst(url, text, via, run);
    return { kind: 'new', url: text, depth: via.depth, run, out, detail };
  }

  private reasonAgainst(
    url: URL,
    text: string,
    via: Via,
    run: number,
  ): { out: LeftOut | null; detail: string | null } {
    const none = { out: null, detail: null };
    if (text.length >= MAX_LOCATION) return { out: 'too-long', detail: null };
    if (!url.pathname.startsWith(this.folder)) return { out: 'outside', detail: null };
    const forbidden = this.bounds.forbids?.(text.slice(this.origin.length)) ?? null;
    if (forbidden !== null) return { out: 'forbidden', detail: forbidden };
    if (NO_PAGE.test(url.pathname)) return { out: 'no-page', detail: null };
    if (via.by === 'hand' || via.by === 'list') return none;
    if (via.depth > this.bounds.depth) return { out: 'too-deep', detail: null };
    const repeated = repeatedIn(url.pathname);
    if (repeated !== null) return { out: 'repeating', detail: repeated };
    if (run >= LONGEST_RUN) {
      const shape = shapeOf(text).slice(this.origin.length);
      this.name(shape, 'endless', text);
      return { out: 'endless', detail: shape };
    }
    const names = [...url.searchParams.keys()];
    if (names.length < 2) return none;
    const count = (this.mixed.get(url.pathname) ?? 0) + 1;
    if (this.mixed.size < MOST_PATHS || count > 1) this.mixed.set(url.pathname, count);
    if (count <= MOST_MIXED) return none;
    this.name(`${url.pathname}?${[...new Set(names)].sort().join('&')}`.slice(0, 200), 'parameters', text);
    return { out: 'parameters', detail: url.pathname.slice(0, 200) };
  }

  /** The address as it is kept: at the front door, without sessions and without parameters that make no difference; null for another website's. */
  private settled(found: string): URL | null {
    if (found.length > MAX_LOCATION * 2) return null;
    let url: URL;
    try {
      url = new URL(found);
    } catch {
      return null;
    }
    url.hash = '';
    if (url.origin !== this.origin) {
      if (!this.bounds.others.has(url.origin)) return null;
      this.name(url.origin, 'variant', url.href);
      url = new URL(url.pathname + url.search, this.origin);
    }
    for (const pattern of SESSIONS_IN_PATHS) {
      const session = pattern.exec(url.pathname);
      if (!session) continue;
      this.name(session[0].replace(/[=(].*$/u, ''), 'session', url.href);
      url.pathname = url.pathname.replace(session[0], '');
    }
    if (url.search !== '') this.thin(url);
    return url;
  }

  private thin(url: URL): void {
    for (const name of new Set(url.searchParams.keys())) {
      const kind = SESSION.test(name) ? 'session' : this.doubles.isIdle(name) ? 'idle' : null;
      if (kind === null) continue;
      this.name(name.slice(0, 100), kind, url.href);
      url.searchParams.delete(name);
    }
  }

  /** As `Doubles.learn` and `PathSessions.learn`. */
  learn(text: string, face: string | null, title: string | null = null): boolean {
    const isVisit = this.sessions.learn(new URL(text).pathname, title, face);
    return this.doubles.learn(text, face) || isVisit;
  }

  /** Learns whether an address leads to anything. */
  met(text: string, isGone: boolean): void {
    const shape = shapeOf(text);
    const ends = this.ends.get(shape) ?? { gone: 0, there: 0 };
    if (isGone) ends.gone += 1;
    else ends.there += 1;
    if (this.ends.size < MOST_PATHS) this.ends.set(shape, ends);
  }

  /** Whether so many like it led to nothing, and none to anything, that it need not be asked for. */
  isHopeless(text: string): boolean {
    const ends = this.ends.get(shapeOf(text));
    return ends !== undefined && ends.there === 0 && ends.gone >= MOST_GONE;
  }

  /** Whether it is one more address of a page, as each visit gets one. */
  isVisit(text: string): boolean {
    const isOne = this.sessions.isAnother(new URL(text).pathname);
    if (isOne) this.name('a part of the path that is another for each visit', 'session', text);
    return isOne;
  }

  private name(
    what: string,
    kind: 'session' | 'idle' | 'endless' | 'parameters' | 'variant',
    first: string,
  ): void {
    const known = this.named.get(what);
    if (known) known.count += 1;
    else if (this.named.size < 100)
      this.named.set(what, { kind, count: 1, first: first.slice(0, MAX_LOCATION) });
  }
}

/** An address with its numbers taken out: `/events/2026/11` and `/events/2027/3` have one shape. */
export function shapeOf(url: string): string {
  return url.replace(/\d+/gu, '#');
}

/** The part of a path that comes again and again. */
function repeatedIn(path: string): string | null {
  const counts = new Map<string, number>();
  for (const part of path.split('/')) {
    if (part === '') continue;
    const count = (counts.get(part) ?? 0) + 1;
    if (count >= MOST_ALIKE) return part.slice(0, 100);
    counts.set(part, count);
  }
  return null;
}

/** An address in the characters that RFC 3986 knows, as the sitemap protocol wants them: what browsers let stand is escaped too. */
export function sound(href: string): string {
  return href
    .replace(/%(?![0-9a-f]{2})/giu, '%25')
    .replace(/[^\w\-.~:/?#[\]@!$&'()*+,;=%]/gu, (sign) => encodeURIComponent(sign));
}
