import { canonicalOf } from '../../html/link-header.js';
import { resolved, clientRedirectOf } from '../../html/client-redirect.js';
import { attribute, type Beyond, type Element } from '../../html/tree.js';
import {
  asksNotToFollow,
  asksNotToFollowHeader,
  asksToStayAway,
  stayAwayHeader,
} from '../../robots/directives.js';
import { fnv1a } from '../../text/fnv.js';
import { hashOf, type PageFace } from './face.js';
import { readData, type PageData } from './page-data.js';
import { imagesIn, linksIn, relations, type LinksRead } from './page-links.js';
import { PageParts } from './page-parts.js';
import { sketchOf } from './sketch.js';

/** Everything that a page says that matters to a sitemap which may hold it. */
export interface PageRead extends LinksRead {
  /** Pages of the website that it shows in frames. */
  readonly framed: readonly string[];
  /** Links that were not taken, since there were more than anybody reads. */
  readonly linksBeyond: number;
  readonly canonical: string | null;
  /** What keeps it out of every engine's list, as it is written; null where nothing does. */
  readonly staysAway: string | null;
  readonly sentOn: string | null;
  readonly siblings: readonly { readonly language: string; readonly url: string }[];
  readonly feeds: readonly string[];
  readonly images: readonly string[];
  readonly title: string;
  readonly language: string | null;
  readonly data: PageData;
  /** Whether it is mostly a list of links, one of several that follow one another. */
  readonly isListing: boolean;
  /** By which it is known again. */
  readonly face: PageFace;
  /** The sketch of its words without those and the numbers of a calendar, and of its images; null for one without any. */
  readonly plain: string | null;
  readonly beyond: Beyond | null;
}

const MOST_SIBLINGS = 200;
const MOST_FEEDS = 10;
/** Images that count for what a page shows beside its words. */
const MOST_PICTURES = 50;
/** Letters of structured data that count for how a page is called. */
const MOST_DATA = 20_000;
/** A page of fewer words that has scripts may be made into another for each address. */
const SHELL_WORDS = 30;
const FEED = /^application\/(rss|atom)\+xml\b/iu;

/**
 * Reads a page for the sitemap that may hold it: its links as a browser would find them, and what it says of itself.
 * @param url where it was fetched; addresses are resolved against its first `base`, or against that
 * @param origins of the website: links that lead to none of them are only counted
 * @param encoding of the page, by the name that the Encoding standard has for it: queries of its links are in it
 * @param headers of its answer, names in lower case: `x-robots-tag` and `link` (RFC 8288) have a say
 */
export function readForMaking(
  text: string,
  url: string,
  headers: Readonly<Record<string, string>>,
  origins: readonly string[],
  encoding = 'utf-8',
): PageRead {
  const parts = new PageParts(text);
  const { heads, refresh, script, letters } = parts;
  const base = resolved(parts.base, url) ?? url;
  const robots = heads.filter((one) => named(one) === 'robots').map((one) => attribute(one, 'content') ?? '');
  const isClosed = robots.some(asksNotToFollow) || asksNotToFollowHeader(headers['x-robots-tag'] ?? '');
  const around = { base, encoding, isClosed, origins };
  const related = heads
    .filter(({ tagName }) => tagName === 'link')
    .map((link) => ({ link, to: relations(link) }));
  const canonical = related.find(({ to }) => to.includes('canonical'))?.link;
  const ownCanonical = resolved(
    canonical ? attribute(canonical, 'href') : canonicalOf(headers['link']),
    base,
  );
  const images = imagesIn(parts.others, base);
  return {
    ...linksIn(parts.links, around),
    framed: linksIn(parts.frames, { ...around, by: 'src' }).links.map((one) => one.url),
    linksBeyond: parts.linksBeyond,
    canonical: ownCanonical,
    staysAway: robots.find(asksToStayAway) ?? stayAwayHeader(headers['x-robots-tag'] ?? '', null),
    sentOn: clientRedirectOf({ refresh, script, letters, base })?.url ?? null,
    ...alternatesIn(
      related.filter(({ to }) => to.includes('alternate')).map(({ link }) => link),
      base,
    ),
    images,
    title: parts.title,
    language: parts.language,
    data: readData({ metas: heads, others: parts.others, texts: parts.data, base }),
    face: faceOf(parts, images.map(withoutQuery), ownCanonical !== null),
    isListing:
      parts.lettersInLinks * 3 >= letters &&
      related.some(({ to }) => to.includes('prev') || to.includes('next')),
    plain: sketchOf(plainOf(parts, images.slice(0, MOST_PICTURES).map(withoutQuery))),
    beyond: parts.beyond,
  };
}

function faceOf(
  { words, title, headings, heads, data, scripts }: PageParts,
  images: readonly string[],
  isOwn: boolean,
): PageFace {
  const { hashes } = words;
  return {
    sketch: sketchOf(hashes),
    text: hashOf(images, hashes),
    name: hashOf([title, headings.trim(), descriptionOf(heads), data.join(' ').slice(0, MOST_DATA)]),
    isShell: hashes.length === 0 || (scripts > 0 && hashes.length < SHELL_WORDS),
    isOwn,
  };
}

function plainOf({ words: { plain } }: PageParts, images: readonly string[]): Int32Array {
  const all = new Int32Array(plain.length + images.length);
  all.set(plain);
  all.set(
    images.map((image) => fnv1a(image)),
    plain.length,
  );
  return all;
}

function alternatesIn(links: readonly Element[], base: string): Pick<PageRead, 'siblings' | 'feeds'> {
  const siblings: PageRead['siblings'][number][] = [];
  const feeds: string[] = [];
  for (const link of links) {
    const url = resolved(attribute(link, 'href'), base);
    if (url === null) continue;
    const tongue = attribute(link, 'hreflang');
    if (tongue !== null && siblings.length < MOST_SIBLINGS)
      siblings.push({ language: tongue.slice(0, 35), url });
    if (FEED.test(attribute(link, 'type') ?? '') && feeds.length < MOST_FEEDS) feeds.push(url);
  }
  return { siblings, feeds };
}

/** An image without its query, which may be another for each visit. */
function withoutQuery(image: string): string {
  return image.split('?')[0] ?? '';
}

function descriptionOf(heads: readonly Element[]): string {
  const found = heads.find((one) => named(one) === 'description');
  return found ? (attribute(found, 'content') ?? '') : '';
}

function named(meta: Element): string {
  return meta.tagName === 'meta' ? (attribute(meta, 'name') ?? '').toLowerCase() : '';
}
