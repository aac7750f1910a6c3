import { inEncoding } from '../../html/query-encoding.js';
import { resolved } from '../../html/client-redirect.js';
import { attribute, isElement, type Element } from '../../html/tree.js';

/** One link of a page that may be followed. */
export interface PageLink {
  readonly url: string;
  /** Whether it stands in a menu: within `nav`, or in the page's own `header`. */
  readonly inMenu: boolean;
}

/** Where the links of a page lead. */
export interface LinksRead {
  readonly links: readonly PageLink[];
  /** Links that ask not to be followed (`rel="nofollow"`, a robots tag). */
  readonly unfollowed: number;
  /** Links to other websites. */
  readonly elsewhere: number;
}

interface Around {
  readonly base: string;
  readonly encoding: string;
  /** Whether the page asks that none of its links be followed. */
  readonly isClosed: boolean;
  readonly origins: readonly string[];
  readonly by?: 'href' | 'src';
}

/** The links of a page by the elements that make them, each address once. */
export function linksIn(
  elements: readonly Element[],
  { base, encoding, isClosed, origins, by = 'href' }: Around,
): LinksRead {
  const links = new Map<string, PageLink>();
  let unfollowed = 0;
  let elsewhere = 0;
  for (const element of elements) {
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
    const known = links.get(url);
    if (known?.inMenu === true) continue;
    const inMenu = isInMenu(element);
    if (!known || inMenu) links.set(url, { url, inMenu });
  }
  return { links: [...links.values()], unfollowed, elsewhere };
}

/** The images among some elements, each address once. */
export function imagesIn(elements: readonly Element[], base: string): string[] {
  const found = new Set<string>();
  for (const one of elements) {
    const url = one.tagName === 'img' ? resolved(attribute(one, 'src'), base) : null;
    if (url !== null) found.add(url);
  }
  return [...found];
}

/** The words of an element's `rel`, in lower case. */
export function relations(link: Element): readonly string[] {
  const rel = attribute(link, 'rel');
  return rel === null ? NONE : rel.toLowerCase().split(/\s+/u);
}

const NONE: readonly string[] = [];

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
