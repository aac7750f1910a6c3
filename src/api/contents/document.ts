import type { SitemapKind } from '../../core/sitemap/reading.js';

/** The contents of a sitemap when they were last fetched. */
export interface ContentsState {
  at: string;
  kind: SitemapKind | null;
  entries: number;
  /** Sitemaps of an index whose addresses are among them; 1 where it is none. */
  files: number;
  /** Whether there were more addresses than are kept. */
  cut: boolean;
}

/** One address in a sitemap. */
export interface SitemapUrl {
  /** Its place in its file, from 1. */
  nth: number;
  address: string;
  /** As it is written. */
  lastmod: string | null;
  /** In which file of an index it stands, and on which line. */
  file: string;
  line: number;
  findings: { code: string; says: string }[];
  /** What engines said of it when they were last asked. */
  asked: { engine: string; listed: boolean | null; at: string; says: string | null }[];
}

/** A page of the addresses in a sitemap. */
export interface SitemapContents {
  contents: ContentsState;
  /** How many there are of what was asked for. */
  count: number;
  items: SitemapUrl[];
  next: string | null;
}

/** One folder of a website, as far as a sitemap lists what is in it. */
export interface SitemapFolder {
  folder: string;
  /** Addresses right in it, and in it and below. */
  own: number;
  total: number;
  /** Whether there are folders below it. */
  hasBelow: boolean;
}

/** What stands in a sitemap, in sum. */
export interface SitemapOutline {
  contents: ContentsState;
  /** The folders right below the one that was asked for, in the order of their names; the hosts where none was. */
  folders: SitemapFolder[];
  /** Whether there are more folders than are told. */
  more: boolean;
  findings: { code: string; says: string; count: number }[];
  dated: number;
  newest: string | null;
  oldest: string | null;
}
