import type { Finding } from '../findings/finding.js';
import type { SitemapFormat } from '../profile/profile.js';

/** What a file turned out to be: the sitemaps.org protocol's own forms, and the feeds and text that it allows beside them. */
export type SitemapKind = SitemapFormat;

/** Entries of extensions that a urlset may carry, counted. */
export interface Extensions {
  readonly images: number;
  readonly videos: number;
  readonly news: number;
  /** `xhtml:link` elements that name siblings in other languages. */
  readonly alternates: number;
}

export const NO_EXTENSIONS: Extensions = { images: 0, videos: 0, news: 0, alternates: 0 };

/** What one fetch and parse of one sitemap file established. */
export interface FileReading {
  readonly kind: SitemapKind | null;
  /** Addresses of a urlset, a feed or a text; sitemaps of an index. */
  readonly entries: number;
  /** The sitemaps of an index, in order, at most `MAX_ADDRESSES`. */
  readonly children: readonly string[];
  /** The newest lastmod as it was written, null where there is none. */
  readonly newestLastmod: string | null;
  readonly extensions: Extensions;
  readonly findings: readonly Finding[];
}

/** How a sitemap stood at its latest reading. */
export type SitemapState = 'unread' | 'clean' | 'flawed' | 'unreachable';

/** The state that a reading's findings amount to. */
export function stateOf(findings: readonly Finding[]): SitemapState {
  if (findings.some((one) => one.code === 'sitemap.not-reached')) return 'unreachable';
  return findings.some((one) => one.grade !== 'note') ? 'flawed' : 'clean';
}

/** A sitemap with its children, read as one. */
export interface WholeReading {
  readonly kind: SitemapKind | null;
  /** Addresses in all, over the children of an index. */
  readonly addresses: number;
  readonly children: number;
  readonly newestLastmod: string | null;
  readonly findings: readonly Finding[];
}
