import { graded } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import type { SitemapFormat } from '../profile/profile.js';

/** Addresses of one host other than the file's own. */
export interface OnOtherHost {
  readonly host: string;
  readonly count: number;
  readonly first: string;
  readonly line: number;
  readonly column: number;
}

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
  /** Hosts other than the file's own on which it lists addresses. */
  readonly onOtherHosts: readonly OnOtherHost[];
  readonly findings: readonly Finding[];
}

/** How a sitemap stood at its latest reading. */
export const SITEMAP_STATES = ['unread', 'clean', 'flawed', 'unreachable'] as const;
export type SitemapState = (typeof SITEMAP_STATES)[number];

/** The worst of the states of a property's sitemaps; `none` where it has none. */
export function worstSitemap(states: readonly SitemapState[]): SitemapState | 'none' {
  return (
    (['unreachable', 'flawed', 'unread', 'clean'] as const).find((one) => states.includes(one)) ?? 'none'
  );
}

/** The state that a reading amounts to. */
export function stateOf({
  kind,
  findings,
}: {
  readonly kind?: SitemapKind | null;
  readonly findings: readonly Finding[];
}): SitemapState {
  if (kind == null && findings.some((one) => one.code === 'sitemap.not-reached')) return 'unreachable';
  return findings.some((one) => one.grade !== 'note') ? 'flawed' : 'clean';
}

/** A sitemap with its children, read as one. */
export interface WholeReading {
  readonly kind: SitemapKind | null;
  /** Addresses in all, over the children of an index. */
  readonly addresses: number;
  /** The sitemaps of an index, each as it was read; empty where it is none. */
  readonly children: readonly ChildReading[];
  readonly newestLastmod: string | null;
  readonly extensions: Extensions;
  /** The same for the same set of addresses. */
  readonly fingerprint: string;
  readonly findings: readonly Finding[];
}

/** One sitemap of an index, as it was read. */
export interface ChildReading {
  readonly url: string;
  readonly kind: SitemapKind | null;
  readonly addresses: number;
  readonly newestLastmod: string | null;
  readonly state: SitemapState;
  /** The first thing that is wrong with it. */
  readonly says: string | null;
}

/** The worst of a reading's findings that is to be mended; null where there is none. */
export function worstOf(findings: readonly Finding[]): Finding | null {
  return (
    findings.find(({ grade }) => grade === 'stops') ?? findings.find(({ grade }) => grade === 'harms') ?? null
  );
}

export function childOf(url: string, { kind, entries, newestLastmod, findings }: FileReading): ChildReading {
  const worst = worstOf(findings);
  return {
    url,
    kind,
    addresses: entries,
    newestLastmod,
    state: stateOf({ kind, findings }),
    says: worst?.says ?? null,
  };
}

/**
 * The findings of the sitemaps of an index: those of one kind are told once, by the sitemap that has most of them, with how
 * many have it.
 */
export function foldChildren(all: readonly (readonly Finding[])[]): Finding[] {
  const kinds = new Map<string, Finding[]>();
  for (const one of all.flat())
    if (one.grade !== 'note') kinds.set(one.code, [...(kinds.get(one.code) ?? []), one]);
  return [...kinds.values()].flatMap((some) => {
    const [most] = some
      // What stops one of them does not stop the others, nor the index.
      .map((one) => (one.grade === 'stops' ? graded('harms', one) : one))
      .sort((a, b) => Number(b.evidence['count'] ?? 0) - Number(a.evidence['count'] ?? 0));
    if (!most) return [];
    if (some.length === 1) return [most];
    return [
      {
        ...most,
        says: `${most.says} So it is in ${String(some.length)} sitemaps of the index.`,
        evidence: { ...most.evidence, sitemaps: some.length },
      },
    ];
  });
}

export function sumOf(all: readonly Extensions[]): Extensions {
  return all.reduce(
    (sum, one) => ({
      images: sum.images + one.images,
      videos: sum.videos + one.videos,
      news: sum.news + one.news,
      alternates: sum.alternates + one.alternates,
    }),
    NO_EXTENSIONS,
  );
}
