import { MAX_LOCATION } from '../read/limits.js';
import { Hash } from '../set/hash.js';
import { Doubles } from './doubles.js';
import { likeness, type PageFace } from './face.js';
import { PathSessions } from './path-sessions.js';
import type { Reach } from './recipe.js';
import { Rows } from './rows.js';
import { HashSet56 } from '../set/hash-set.js';

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

/** What may be told of addresses that a gathering met, besides why each is left out. */
export const NAMED_KINDS = [
  'session',
  'idle',
  'endless',
  'parameters',
  'variant',
  'alike',
  'identical',
  'missing',
  'frame',
  'nofollow',
] as const;
export type NamedKind = (typeof NAMED_KINDS)[number];

/** Where an address was found. */
export interface Via {
  readonly by: FoundBy;
  /** Links from where it began. */
  readonly depth: number;
  /** The address of the page that links to it; null where none does. */
  readonly from: string | null;
  /** How many pages of one shape led here one after the other without anything of their own. */
  readonly run: number;
  /** Whether it is where the other address leads on to, rather than a link of a page. */
  readonly isOn?: boolean;
}

/** What a page that was read shows, as far as it bears on where to go from there. */
export interface Shown {
  readonly face: PageFace;
  readonly plain: string | null;
}

/** What becomes of an address that was found. */
export type New = Extract<Admission, { kind: 'new' }>;
export type Admission =
  | { readonly kind: 'known' }
  /** Another website's. */
  | { readonly kind: 'elsewhere' }
  | {
      readonly kind: 'new';
      readonly url: string;
      readonly depth: number;
      readonly run: number;
      /** Whether it is of one shape with the address that led to it. */
      readonly isAlike: boolean;
      readonly out: LeftOut | null;
      readonly detail: string | null;
    };

/** What bounds the ways of one gathering. */
export interface Bounds {
  readonly door: string;
  /** Origins at which the same website answers. */
  readonly others: ReadonlySet<string>;
  readonly reach: Pick<Reach, 'depth' | 'row'>;
  /** What the website answers for an address that it cannot have; null where it says that there is none. */
  readonly missing: PageFace | null;
  /** What the robots.txt keeps us or engines from; the line that decides. */
  readonly forbids: ((path: string) => string | null) | undefined;
}

/** Where so many addresses of one shape lead to nothing, and none to anything, the rest of them is not asked for. */
const MOST_GONE = 50;
const MOST_FILES = 20;
/** So many addresses of one path with the same parameters, two or more, of which hardly one had anything of its own, are enough. */
const MOST_MIXED = 300;
/** Shapes of addresses. */
const MOST_PATHS = 50_000;
/** A name of a folder that comes so often in one path is written by a link that goes round in itself. */
const MOST_ALIKE = 4;
const SESSION = /^(?:phpsessid|j?session_?id|sid)$/iu;
/** A parameter of a part of a path (RFC 3986 §3.3), and a part of its own in brackets. */
const SESSIONS_IN_PATHS = [
  /;(?:phpsessid|j?session_?id|sid)=[^/?;]*/iu,
  /\/\((?:[a-z]\([\w-]{12,}\))+\)(?=\/|$)/iu,
];
/** How the addresses of what a page is made of end, of archives and of programs; what such an address is, its answer says. */
const FILE =
  /\.(?:avif|bmp|css|dmg|eot|exe|gif|gz|ico|iso|jpe?g|mjs|mov|mp[34]|mpe?g|msi|ogg|ogv|otf|png|rar|svg|swf|tar|tiff?|ttf|wasm|wav|webm|webp|woff2?|zip|7z)$/iu;

/**
 * Decides which of the addresses that a gathering meets are worth going to. Holds 56 bits of each, and of parameters as much as
 * tells whether they make a difference, so that a website without end costs no more than its bounds.
 */
export class Frontier {
  private readonly seen = new HashSet56();
  private readonly hash = new Hash();
  private readonly ends = new Map<string, { gone: number; there: number }>();
  private readonly files = new Map<string, { others: number; pages: number }>();
  private readonly doubles = new Doubles();
  private readonly sessions = new PathSessions();
  private readonly rows = new Rows();
  private readonly folder: string;
  private readonly origin: string;
  /** What was taken off addresses or left out, by what it is: for the report. */
  readonly named = new Map<
    string,
    {
      readonly what: string;
      readonly kind: NamedKind;
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
    const isAlike = via.from !== null && shapeOf(via.from) === shapeOf(text);
    // Pages of a list are as deep as its first: whatever its length, it is read to its end.
    const depth = isAlike && via.isOn !== true ? Math.max(0, via.depth - 1) : via.depth;
    const { out, detail } = this.reasonAgainst(url, text, { ...via, depth });
    return { kind: 'new', url: text, depth, run: isAlike ? via.run : 0, isAlike, out, detail };
  }

  /**
   * Where a row goes on: what is alike to the page that led to it is left once so many before it had nothing of their own.
   * @param run how many that are, the page that led to it included
   */
  inRow(found: New, run: number): New {
    if (!found.isAlike || found.out !== null) return found;
    if (run < this.bounds.reach.row) return { ...found, run };
    const shape = shapeOf(found.url).slice(this.origin.length);
    this.name(shape, 'endless', found.url);
    return { ...found, run, out: 'endless', detail: shape };
  }

  private reasonAgainst(url: URL, text: string, via: Via): { out: LeftOut | null; detail: string | null } {
    const none = { out: null, detail: null };
    if (text.length >= MAX_LOCATION) return { out: 'too-long', detail: null };
    if (!url.pathname.startsWith(this.folder)) return { out: 'outside', detail: null };
    const forbidden = this.bounds.forbids?.(text.slice(this.origin.length)) ?? null;
    if (forbidden !== null) return { out: 'forbidden', detail: forbidden };
    if (via.by === 'hand' || via.by === 'list') return none;
    if (via.depth > this.bounds.reach.depth) return { out: 'too-deep', detail: null };
    const repeated = repeatedIn(url.pathname);
    if (repeated !== null) return { out: 'repeating', detail: repeated };
    return none;
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
      const isSession = SESSION.test(name);
      if (!isSession && !this.doubles.idle.mayGo(url, name, url.href)) continue;
      if (isSession) this.name(name.slice(0, 100), 'session', url.href);
      else this.name(`${url.pathname}?${name}`.slice(0, 200), 'idle', url.href);
      url.searchParams.delete(name);
    }
  }

  /**
   * Learns what a page shows that may go in.
   * @returns whether it is left out as a double, and addresses that are worth going to after all
   */
  learn(text: string, { face }: Shown): { readonly isDouble: boolean; readonly back: readonly string[] } {
    const isVisit = this.sessions.learn(new URL(text).pathname, face);
    const { likeness: like, back } = this.doubles.learn(text, face);
    const isDouble = isVisit || like === 'same';
    if (!isDouble) {
      if (likeness(this.bounds.missing, face) !== 'other') this.name('', 'missing', text);
      else if (like === 'alike') this.name(shapeOf(text).slice(this.origin.length), 'alike', text);
      else if (this.doubles.isShownBefore(face)) this.name('', 'identical', text);
    }
    return { isDouble, back };
  }

  /** Learns what a page shows. @returns whether it has anything of its own, as a page in a row of its like */
  hasOwn(text: string, { plain }: Shown): boolean {
    const mixed = mixtureOf(text);
    if (mixed !== null) this.rows.learn(mixed, plain);
    const shape = shapeOf(text);
    return shape === text || this.rows.learn(shape, plain);
  }

  /** Whether an address belongs to others that have something of their own, as a page that leads to it then has too. */
  isRich(text: string): boolean {
    return this.rows.isRich(shapeOf(text));
  }

  /** Whether hundreds like it, by their parameters, have shown nothing of their own. */
  isMixture(text: string): boolean {
    const mixed = mixtureOf(text);
    if (mixed === null || !this.rows.isPoor(mixed, MOST_MIXED)) return false;
    this.name(mixed.slice(this.origin.length, this.origin.length + 200), 'parameters', text);
    return true;
  }

  /** Tells of pages that show others in frames, or have links that nobody is to follow. */
  tell(kind: 'frame' | 'nofollow', text: string): void {
    this.name('', kind, text);
  }

  /** Learns whether an address leads to anything, and whether that is a page. */
  met(text: string, isGone: boolean, isPage: boolean): void {
    const kind = fileKindOf(text);
    if (kind !== null && !isGone) {
      const files = this.files.get(kind) ?? { others: 0, pages: 0 };
      if (isPage) files.pages += 1;
      else files.others += 1;
      if (this.files.size < MOST_PATHS) this.files.set(kind, files);
    }
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

  /** Whether so many that end like it in the same folder were no page, and none was one, that it need not be asked for. */
  isFile(text: string): boolean {
    const kind = fileKindOf(text);
    const files = kind === null ? undefined : this.files.get(kind);
    return files !== undefined && files.pages === 0 && files.others >= MOST_FILES;
  }

  /** Whether it is one more address of a page, as each visit gets one. */
  isVisit(text: string): boolean {
    const isOne = this.sessions.isAnother(new URL(text).pathname);
    if (isOne) this.name('a part of the path that is another for each visit', 'session', text);
    return isOne;
  }

  private name(what: string, kind: NamedKind, first: string): void {
    const key = `${kind} ${what}`;
    const known = this.named.get(key);
    if (known) known.count += 1;
    else if (this.named.size < 100)
      this.named.set(key, { what, kind, count: 1, first: first.slice(0, MAX_LOCATION) });
  }
}

/** An address with its numbers and the slash at its end taken out: `/events/2026/11` and `/events/2027/3/` have one shape. */
export function shapeOf(url: string): string {
  return url.replace(/\d+/gu, '#').replace(/\/$/u, '');
}

/** The folder of an address and how it ends, where it ends like a file. */
function fileKindOf(text: string): string | null {
  const { pathname } = new URL(text);
  const end = FILE.exec(pathname)?.[0];
  return end === undefined
    ? null
    : `${shapeOf(pathname.slice(0, pathname.lastIndexOf('/')))} ${end.toLowerCase()}`;
}

/** A path with the names of its parameters, two or more; null for an address with fewer. */
function mixtureOf(text: string): string | null {
  if (!text.includes('&')) return null;
  const url = new URL(text);
  const names = [...new Set(url.searchParams.keys())].sort();
  return names.length < 2 ? null : `${url.origin}${url.pathname}?${names.join('&')}`;
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

/**
 * An address in the characters that RFC 3986 knows, as the sitemap protocol wants them: what browsers let stand is escaped too, and what
 * needs no escape has none (§6.2.2.2), so that `/%7Eme` and `/~me` are one.
 */
export function sound(href: string): string {
  return href
    .replace(/%(?![0-9a-f]{2})/giu, '%25')
    .replace(/%[0-9a-f]{2}/giu, (escaped) => {
      const sign = String.fromCharCode(Number.parseInt(escaped.slice(1), 16));
      return /[\w\-.~]/u.test(sign) ? sign : escaped.toUpperCase();
    })
    .replace(/[^\w\-.~:/?#[\]@!$&'()*+,;=%]/gu, (sign) => encodeURIComponent(sign));
}

/** An address in the one form by which two are the same (RFC 3986 §6.2.2); what is no address stays as it is. */
export function normal(url: string): string {
  try {
    return sound(new URL(url).href);
  } catch {
    return url;
  }
}
