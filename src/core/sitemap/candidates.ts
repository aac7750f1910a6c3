import { addressText, type WebAddress } from '../address/web-address.js';
import type { Finding } from '../findings/finding.js';
import type { SitemapKind } from './reading.js';

/** Why a sitemap is looked for at an address. */
export const CANDIDATE_WHYS = ['robots', 'usual', 'feed', 'noted'] as const;
export type CandidateWhy = (typeof CANDIDATE_WHYS)[number];

export interface Candidate {
  readonly url: string;
  readonly why: CandidateWhy;
}

/** What was read at a place. */
export interface CandidateRead extends Candidate {
  readonly kind: SitemapKind | null;
  readonly entries: number;
  readonly children: readonly string[];
  readonly findings: readonly Finding[];
}

/** The names under which sitemaps usually stand. */
const USUAL = ['sitemap.xml', 'sitemap_index.xml', 'sitemap-index.xml', 'sitemap.xml.gz', 'sitemap.txt'];
const MOST_PLACES = 40;

/**
 * Where the sitemaps of a property may be: what its robots.txt names, the feeds that its front page links, what is noted
 * already, and the usual names at the root and in the property's folder.
 * @param named as the robots.txt has them, relative ones too, which strictly are none
 * @param feeds resolved
 */
export function placesToLook(
  door: WebAddress,
  named: readonly string[],
  feeds: readonly string[],
  noted: readonly string[],
): Candidate[] {
  const base = addressText(door);
  const resolved = named.flatMap((url) => (URL.canParse(url, base) ? [new URL(url, base).href] : []));
  const folders = [...new Set(['/', door.path])];
  const found: Candidate[] = [
    ...resolved.map((url) => ({ url, why: 'robots' as const })),
    ...noted.map((url) => ({ url, why: 'noted' as const })),
    ...feeds.map((url) => ({ url, why: 'feed' as const })),
    ...folders.flatMap((folder) =>
      USUAL.map((name) => ({ url: new URL(folder + name, base).href, why: 'usual' as const })),
    ),
  ];
  const once = new Map<string, Candidate>();
  for (const place of found) if (!once.has(place.url)) once.set(place.url, place);
  return [...once.values()].slice(0, MOST_PLACES);
}

/**
 * Which of the sitemaps that were found to submit: an index before its children, what the robots.txt names before what was
 * guessed, the one with more addresses before the others; a feed never alone, since it has only what is new.
 * @returns null where none can be read
 */
export function placeToSubmit(found: readonly CandidateRead[]): CandidateRead | null {
  const indexes = found.filter(({ kind }) => kind === 'index');
  const children = new Set(indexes.flatMap((one) => one.children));
  const rank = ({ kind, why, url }: CandidateRead): number =>
    (kind === 'index' ? 4 : 0) + (why === 'robots' ? 2 : 0) + (children.has(url) ? -8 : 0);
  const fit = found.filter(
    ({ kind, findings }) =>
      kind !== null && kind !== 'rss' && kind !== 'atom' && !findings.some(({ grade }) => grade === 'stops'),
  );
  return [...fit].sort((a, b) => rank(b) - rank(a) || b.entries - a.entries)[0] ?? null;
}
