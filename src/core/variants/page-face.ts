import {
  attribute,
  isElement,
  isText,
  parentName,
  readTree,
  type Beyond,
  type Element,
} from '../html/tree.js';
import { MOST_SCRIPT, resolved, clientRedirectOf, type ClientRedirect } from '../html/client-redirect.js';
import { canonicalOf } from '../html/link-header.js';
import { tagsIn } from '../badge/probe/page-tags.js';
import { asksToStayAway } from '../robots/directives.js';
import { fingerprint, wordsOf } from './fingerprint.js';

export type { ClientRedirect } from '../html/client-redirect.js';

/** What a page says of its own address, and enough of its content to tell it from another. */
export interface PageFace {
  /** The canonical link (RFC 6596), resolved; null where there is none. */
  readonly canonical: string | null;
  /** Siblings in other languages, resolved. */
  readonly siblings: readonly { readonly language: string; readonly url: string }[];
  /** Feeds of recent pages, resolved. */
  readonly feeds: readonly string[];
  /** Meta tags that ask engines to stay away: for all (`robots`) or for the one whose name they bear. */
  readonly stayAway: readonly { readonly name: string; readonly content: string; readonly line: number }[];
  /** The other address that the whole page is only a frame around. */
  readonly frame: string | null;
  readonly sentOn: ClientRedirect | null;
  readonly fingerprint: string | null;
  /** What the page has more of than is read of any; null where it was read to its end. */
  readonly beyond: Beyond | null;
}

/** What is known of a page that took too long to be read. */
export const UNREAD_FACE: PageFace = {
  canonical: null,
  siblings: [],
  feeds: [],
  stayAway: [],
  frame: null,
  sentOn: null,
  fingerprint: null,
  beyond: 'work',
};

const MOST_SIBLINGS = 200;
const MOST_FEEDS = 10;
const MOST_LINKS = 2_000;
/** Words by which a page is known again. */
const MOST_WORDS = 20_000;
const FEED = /^application\/(rss|atom)\+xml\b/iu;
const WORDLESS = new Set(['script', 'style', 'noscript', 'noframes', 'template']);

/**
 * Reads what a page says of itself.
 * @param text the page
 * @param url where it was fetched; addresses in it are resolved against that, or against its base element
 * @param link the Link header, which may hold the canonical link in place of the page (RFC 8288)
 */
export function readFace(text: string, url: string, link?: string): PageFace {
  const links: Element[] = [];
  const refreshes: string[] = [];
  const words: string[] = [];
  let base = url;
  let letters = 0;
  let script = '';
  const tree = readTree(text, { locations: true });
  tree.visit((node, where) => {
    if (isElement(node) && where !== 'template') {
      if (node.tagName === 'base' && base === url) base = resolved(attribute(node, 'href'), url) ?? url;
      if (node.tagName === 'link' && where === 'head' && links.length < MOST_LINKS) links.push(node);
      if (node.tagName === 'meta' && attribute(node, 'http-equiv')?.toLowerCase() === 'refresh')
        refreshes.push(attribute(node, 'content') ?? '');
    }
    if (isText(node) && where !== 'template') {
      const parent = parentName(node);
      if (parent === 'script' && script.length < MOST_SCRIPT)
        script += `\n${node.value.slice(0, MOST_SCRIPT - script.length)}`;
      if (WORDLESS.has(parent)) return undefined;
      for (const word of wordsOf(node.value, MOST_WORDS - words.length)) words.push(word);
      if (where === 'body') letters += node.value.trim().length;
    }
    return undefined;
  });
  const { tags, frame } = tagsIn(tree, [], { locations: true });
  const canonical = links.find((one) => relations(one).includes('canonical'));
  return {
    canonical: resolved(canonical ? attribute(canonical, 'href') : canonicalOf(link), base),
    siblings: links
      .filter((one) => relations(one).includes('alternate'))
      .flatMap((one) => {
        const language = attribute(one, 'hreflang');
        const to = resolved(attribute(one, 'href'), base);
        return language === null || to === null ? [] : [{ language: language.slice(0, 35), url: to }];
      })
      .slice(0, MOST_SIBLINGS),
    feeds: links
      .filter((one) => relations(one).includes('alternate') && FEED.test(attribute(one, 'type') ?? ''))
      .flatMap((one) => resolved(attribute(one, 'href'), base) ?? [])
      .slice(0, MOST_FEEDS),
    stayAway: tags.flatMap(({ name, content, where, line }) =>
      where === 'head' && name !== null && asksToStayAway(content)
        ? [{ name: name.toLowerCase(), content, line }]
        : [],
    ),
    frame: resolved(frame, base),
    sentOn: clientRedirectOf({ refresh: refreshes[0], script, letters, base }),
    fingerprint: fingerprint(words),
    beyond: tree.beyond,
  };
}

function relations(link: Element): string[] {
  return (attribute(link, 'rel') ?? '').toLowerCase().split(/\s+/u);
}
