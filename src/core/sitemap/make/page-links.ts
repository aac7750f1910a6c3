import {
  attribute,
  isElement,
  parentName,
  readTree,
  type Beyond,
  type Element,
  type Node,
} from '../../html/tree.js';
import { inEncoding } from '../../html/query-encoding.js';
import { resolved, sentOnBy } from '../../html/sent-on.js';
import {
  asksNotToFollow,
  asksToStayAway,
  asksNotToFollowHeader,
  stayAwayHeader,
} from '../../robots/directives.js';
import { wordsOf } from '../../variants/fingerprint.js';
import { canonicalOf } from '../../html/link-header.js';
import { plainWords } from './calendar-words.js';
import { hashOf, type PageFace } from './face.js';
import { sketchOf } from './sketch.js';
import { readData, type PageData } from './page-data.js';

/** One link of a page that may be followed. */
export interface PageLink {
  readonly url: string;
  /** Whether it stands in a menu: within `nav`, or in the page's own `header`. */
  readonly inMenu: boolean;
}

/** An image, with its words where it has any. */
export interface PageImage {
  readonly url: string;
}

/** Everything that a page says that matters to a sitemap which may hold it. */
export interface PageRead {
  readonly links: readonly PageLink[];
  /** Pages of the website that it shows in frames. */
  readonly framed: readonly string[];
  /** Links that were not taken, since there were more than anybody reads. */
  readonly linksBeyond: number;
  /** Links that ask not to be followed (`rel="nofollow"`, a robots tag). */
  readonly unfollowed: number;
  /** Links to other websites. */
  readonly elsewhere: number;
  readonly canonical: string | null;
  /** What keeps it out of every engine's list, as it is written; null where nothing does. */
  readonly staysAway: string | null;
  readonly sentOn: string | null;
  readonly siblings: readonly { readonly language: string; readonly url: string }[];
  readonly feeds: readonly string[];
  readonly images: readonly PageImage[];
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

/** Links of one page that are looked at: more nobody follows, and no page that people use has them. */
const MOST_LINKS = 10_000;
const MOST_SIBLINGS = 200;
const MOST_FEEDS = 10;
const MOST_FRAMES = 100;
/** Images that one entry may have: the image extension's own bound. */
const MOST_IMAGES = 1_000;
const MOST_WORDS = 5_000;
/** Images that count for what a page shows beside its words. */
const MOST_PICTURES = 50;
/** Letters of headings and of structured data that count for how a page is called. */
const MOST_HEADINGS = 4_000;
const MOST_DATA = 20_000;
/** A page of fewer words that has scripts may be made into another for each address. */
const SHELL_WORDS = 30;
const LONGEST_TITLE = 300;
const FEED = /^application\/(rss|atom)\+xml\b/iu;
const WORDLESS = new Set(['script', 'style', 'noscript', 'noframes', 'template']);
const HEADING = /^h[1-3]$/u;

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
  const elements: { readonly element: Element; readonly inMenu: boolean }[] = [];
  const heads: Element[] = [];
  const words: string[] = [];
  const texts: string[] = [];
  let base: string | null = null;
  let title = '';
  let language: string | null = null;
  let letters = 0;
  let script = '';
  let scripts = 0;
  let headings = '';
  let lettersInLinks = 0;
  const frames: Element[] = [];
  let refresh: string | undefined;
  let images = 0;
  let beyondLinks = 0;
  const data: Element[] = [];
  const tree = readTree(text);
  tree.visit((node, where) => {
    if (where === 'template') return undefined;
    if (isElement(node)) {
      switch (node.tagName) {
        case 'html':
          language = attribute(node, 'lang');
          break;
        case 'base':
          base ??= resolved(attribute(node, 'href'), url);
          break;
        case 'a':
        case 'area':
          if (attribute(node, 'href') === null) break;
          if (elements.length < MOST_LINKS) elements.push({ element: node, inMenu: isInMenu(node) });
          else beyondLinks += 1;
          break;
        case 'script':
          scripts += 1;
          break;
        case 'frame':
        case 'iframe':
          if (frames.length < MOST_FRAMES) frames.push(node);
          break;
        case 'img':
          if (images < MOST_IMAGES) data.push(node);
          images += 1;
          break;
        case 'meta':
          if (attribute(node, 'http-equiv')?.toLowerCase() === 'refresh')
            refresh ??= attribute(node, 'content') ?? '';
          else if (heads.length < MOST_LINKS) heads.push(node);
          break;
        case 'link':
          if (heads.length < MOST_LINKS) heads.push(node);
          break;
        case 'time':
        case 'video':
        case 'source':
          if (data.length < MOST_LINKS) data.push(node);
      }
    } else if (node.nodeName === '#text' && 'value' in node) {
      const parent = parentName(node);
      if (parent === 'title' && where === 'head' && title === '')
        title = node.value.trim().slice(0, LONGEST_TITLE);
      if (parent === 'script') {
        const owner = 'parentNode' in node ? node.parentNode : null;
        const isData =
          owner && isElement(owner) && /^application\/ld\+json\b/iu.test(attribute(owner, 'type') ?? '');
        if (isData) texts.push(node.value);
        else if (script.length < 20_000) script += node.value.slice(0, 20_000);
      }
      if (WORDLESS.has(parent)) return undefined;
      if (headings.length < MOST_HEADINGS && isHeading(node)) headings += `${node.value.trim()} `;
      for (const word of wordsOf(node.value, MOST_WORDS - words.length)) words.push(word);
      if (where !== 'body') return undefined;
      letters += node.value.trim().length;
      if (parent === 'a') lettersInLinks += node.value.trim().length;
    }
    return undefined;
  });
  const from = base ?? url;
  const robots = heads.filter((one) => named(one) === 'robots').map((one) => attribute(one, 'content') ?? '');
  const isClosed = robots.some(asksNotToFollow) || asksNotToFollowHeader(headers['x-robots-tag'] ?? '');
  const links = linksIn(elements, { base: from, encoding, isClosed, origins });
  const framed = linksIn(
    frames.map((element) => ({ element, inMenu: false })),
    { base: from, encoding, isClosed, origins, by: 'src' },
  );
  const alternates = heads.filter((one) => relations(one).includes('alternate'));
  const canonical = heads.find((one) => relations(one).includes('canonical'));
  const ownCanonical = resolved(
    canonical ? attribute(canonical, 'href') : canonicalOf(headers['link']),
    from,
  );
  const pictures = imagesIn(data, from);
  return {
    ...links,
    framed: framed.links.map(({ url: framedUrl }) => framedUrl),
    linksBeyond: beyondLinks,
    canonical: ownCanonical,
    staysAway: robots.find(asksToStayAway) ?? stayAwayHeader(headers['x-robots-tag'] ?? '', null),
    sentOn: sentOnBy({ refresh, script, letters, base: from })?.url ?? null,
    siblings: alternates
      .flatMap((one) => {
        const to = resolved(attribute(one, 'href'), from);
        const tongue = attribute(one, 'hreflang');
        return tongue === null || to === null ? [] : [{ language: tongue.slice(0, 35), url: to }];
      })
      .slice(0, MOST_SIBLINGS),
    feeds: alternates
      .filter((one) => FEED.test(attribute(one, 'type') ?? ''))
      .flatMap((one) => resolved(attribute(one, 'href'), from) ?? [])
      .slice(0, MOST_FEEDS),
    images: pictures,
    title,
    language,
    data: readData({ metas: heads, others: data, texts, base: from }),
    face: {
      sketch: sketchOf(words),
      text: hashOf([...words, ...pictures.map(pictured)]),
      name: hashOf([title, headings.trim(), descriptionOf(heads), texts.join(' ').slice(0, MOST_DATA)]),
      isShell: words.length === 0 || (scripts > 0 && words.length < SHELL_WORDS),
      isOwn: ownCanonical !== null,
    },
    isListing:
      lettersInLinks * 3 >= letters &&
      heads.some((one) => relations(one).some((relation) => relation === 'prev' || relation === 'next')),
    plain: sketchOf([...plainWords(words), ...pictures.slice(0, MOST_PICTURES).map(pictured)]),
    beyond: tree.beyond,
  };
}

/** An image without its query, which may be another for each visit. */
function pictured({ url }: PageImage): string {
  return url.split('?')[0] ?? '';
}

/** How far above its text a heading may stand, by links and emphasis in it. */
const HEADING_LEVELS = 3;

function isHeading(node: Node): boolean {
  let above = 'parentNode' in node ? node.parentNode : null;
  for (let level = 0; above && level < HEADING_LEVELS; level += 1) {
    if (!isElement(above)) return false;
    if (HEADING.test(above.tagName)) return true;
    above = above.parentNode;
  }
  return false;
}

function descriptionOf(heads: readonly Element[]): string {
  const found = heads.find(
    (one) => one.tagName === 'meta' && attribute(one, 'name')?.toLowerCase() === 'description',
  );
  return found ? (attribute(found, 'content') ?? '') : '';
}

interface Around {
  readonly base: string;
  readonly encoding: string;
  /** Whether the page asks that none of its links be followed. */
  readonly isClosed: boolean;
  readonly origins: readonly string[];
  readonly by?: 'href' | 'src';
}

function linksIn(
  elements: readonly { readonly element: Element; readonly inMenu: boolean }[],
  { base, encoding, isClosed, origins, by = 'href' }: Around,
): Pick<PageRead, 'links' | 'unfollowed' | 'elsewhere'> {
  const links = new Map<string, PageLink>();
  let unfollowed = 0;
  let elsewhere = 0;
  for (const { element, inMenu } of elements) {
    const link = attribute(element, by);
    const url = link === null ? null : resolved(inEncoding(link, encoding), base);
    if (url === null) continue;
    if (!origins.some((origin) => url.startsWith(`${origin}/`))) {
      elsewhere += 1;
      continue;
    }
    if (isClosed || relations(element).includes('nofollow')) {
      unfollowed += 1;
      continue;
    }
    if (links.get(url)?.inMenu !== true) links.set(url, { url, inMenu });
  }
  return { links: [...links.values()], unfollowed, elsewhere };
}

function imagesIn(elements: readonly Element[], base: string): PageImage[] {
  const found = new Set<string>();
  for (const one of elements) {
    const url = one.tagName === 'img' ? resolved(attribute(one, 'src'), base) : null;
    if (url !== null) found.add(url);
  }
  return [...found].map((url) => ({ url }));
}

function relations(link: Element): string[] {
  return (attribute(link, 'rel') ?? '').toLowerCase().split(/\s+/u);
}

function named(meta: Element): string {
  return meta.tagName === 'meta' ? (attribute(meta, 'name') ?? '').toLowerCase() : '';
}

/** How far up a menu is looked for. */
const MENU_LEVELS = 12;

function isInMenu(link: Element): boolean {
  let node: Element['parentNode'] = link.parentNode;
  for (let level = 0; node && level < MENU_LEVELS; level += 1) {
    if (!isElement(node)) return false;
    if (node.tagName === 'nav' || attribute(node, 'role') === 'navigation') return true;
    // The header of the page, not that of an article in it.
    if (node.tagName === 'header')
      return node.parentNode !== null && isElement(node.parentNode) && node.parentNode.tagName === 'body';
    node = node.parentNode;
  }
  return false;
}
