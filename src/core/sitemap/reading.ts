import type { Finding } from '../findings/finding.js';

export type SitemapKind = 'urlset' | 'index';

/** What one fetch and parse of one sitemap file established. */
export interface FileReading {
  readonly kind: SitemapKind | null;
  /** Addresses of a urlset, or sitemaps of an index. */
  readonly entries: number;
  /** The sitemaps of an index, in order, at most `MAX_ADDRESSES`. */
  readonly children: readonly string[];
  /** The newest lastmod as it was written, null where there is none. */
  readonly newestLastmod: string | null;
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
