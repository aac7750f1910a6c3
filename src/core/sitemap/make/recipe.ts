/** Where addresses of a made sitemap come from. `site` follows links from the front door, `menus` only those of its menus. */
export const SOURCES = ['site', 'menus', 'sitemap', 'feed', 'list'] as const;
export type Source = (typeof SOURCES)[number];

/** What a page is, as far as it shows: by its address, by its kind of content, by what it says of itself. */
export const PAGE_KINDS = [
  'front',
  'page',
  'article',
  'product',
  'listing',
  'with-query',
  'document',
] as const;
export type PageKind = (typeof PAGE_KINDS)[number];

/** Who is believed about when a page changed, first come first believed. */
export const DATE_SOURCES = ['page', 'header', 'seen'] as const;
export type DateSource = (typeof DATE_SOURCES)[number];

export const FREQUENCIES = ['always', 'hourly', 'daily', 'weekly', 'monthly', 'yearly', 'never'] as const;
export type Frequency = (typeof FREQUENCIES)[number];

export const MADE_EXTENSIONS = ['images', 'videos', 'news', 'alternates'] as const;
export type MadeExtension = (typeof MADE_EXTENSIONS)[number];

/** What is said of the pages that a rule is for: one of them is enough. The first rule that fits a page is the one that counts. */
export interface Weighing {
  /** A path pattern as in a robots.txt (RFC 9309 §2.2.3). */
  readonly pattern?: string;
  readonly kind?: PageKind;
  /** Links from the front door. */
  readonly depth?: number;
  /** 0 to 1. */
  readonly priority?: number;
  readonly frequency?: Frequency;
}

/** How far the gathering goes. */
export interface Reach {
  /** Pages that are read at most. */
  readonly pages: number;
  /** Links from where it began. */
  readonly depth: number;
  readonly minutes: number;
  /** Megabytes that are fetched at most. */
  readonly megabytes: number;
  /** Pages of one shape, one after the other, that are read without anything of their own. */
  readonly row: number;
  /** Requests at once at the most; null for what the settings say. */
  readonly atOnce: number | null;
}

/** Which of the pages that were gathered go in, and what is said of each: may be changed and looked at again without another gathering. */
export interface Selection {
  /** Path patterns; where there are any, one of them has to fit. */
  readonly include: string[];
  readonly exclude: string[];
  /** Kinds that are left out. */
  readonly without: PageKind[];
  /** Addresses by hand, put in and taken out. */
  readonly add: string[];
  readonly drop: string[];
  /** At most so many, the newest first; null for all. */
  readonly most: number | null;
  readonly dates: DateSource[];
  readonly extensions: MadeExtension[];
  readonly weighing: Weighing[];
  /** Whether files are packed (RFC 1952). */
  readonly gzip: boolean;
  /** A feed of the most recent pages beside it. */
  readonly feed: 'atom' | 'rss' | null;
}

/** Everything that says how a property's sitemap is made. */
export interface Recipe {
  readonly sources: Source[];
  /** Addresses of the list. */
  readonly list: string[];
  /** Feeds and sitemaps that are read for addresses; where none is named, those that the property has. */
  readonly feeds: string[];
  readonly sitemaps: string[];
  readonly reach: Reach;
  readonly selection: Selection;
}

export const USUAL_REACH: Reach = {
  pages: 50_000,
  depth: 100,
  minutes: 120,
  megabytes: 4_000,
  row: 60,
  atOnce: null,
};

/** Requests at once that a recipe and the settings may ask for. */
export const MOST_AT_ONCE = 16;

export const USUAL_SELECTION: Selection = {
  include: [],
  exclude: [],
  without: [],
  add: [],
  drop: [],
  most: null,
  dates: ['page', 'header', 'seen'],
  extensions: [],
  weighing: [],
  gzip: false,
  feed: null,
};

export const USUAL_RECIPE: Recipe = {
  sources: ['site'],
  list: [],
  feeds: [],
  sitemaps: [],
  reach: USUAL_REACH,
  selection: USUAL_SELECTION,
};
