import { MOST_SCRIPT } from '../../html/client-redirect.js';
import {
  attribute,
  isElement,
  isText,
  parentName,
  readTree,
  type Beyond,
  type Element,
  type NodePlace,
  type TextNode,
} from '../../html/tree.js';
import { PageWords } from './page-words.js';

/** Links of one page that are looked at: more nobody follows, and no page that people use has them. */
const MOST_LINKS = 10_000;
const MOST_FRAMES = 100;
/** Images that one entry may have: the image extension's own bound. */
const MOST_IMAGES = 1_000;
/** Letters of headings that count for how a page is called. */
const MOST_HEADINGS = 4_000;
const LONGEST_TITLE = 300;
const WORDLESS = new Set(['script', 'style', 'noscript', 'noframes', 'template']);
const HEADINGS = new Set(['h1', 'h2', 'h3']);
/** How far above its text a heading may stand, by links and emphasis in it. */
const HEADING_LEVELS = 3;
const JSON_LD = /^application\/ld\+json\b/iu;

/** The parts of a page that matter to a sitemap, gone through once in the page's order. */
export class PageParts {
  readonly links: Element[] = [];
  readonly heads: Element[] = [];
  readonly frames: Element[] = [];
  /** Images, videos and times. */
  readonly others: Element[] = [];
  /** JSON-LD as it is written. */
  readonly data: string[] = [];
  readonly words = new PageWords();
  base: string | null = null;
  title = '';
  headings = '';
  language: string | null = null;
  /** The content of the first refresh pragma. */
  refresh: string | undefined;
  script = '';
  scripts = 0;
  /** Letters that people read, and those of them that stand in links. */
  letters = 0;
  lettersInLinks = 0;
  /** Links that were passed over, since there are more than anybody reads. */
  linksBeyond = 0;
  readonly beyond: Beyond | null;
  private images = 0;

  /** @param text of the page, decoded */
  constructor(text: string) {
    const tree = readTree(text);
    this.beyond = tree.beyond;
    tree.visit((node, where) => {
      if (where === 'template') return undefined;
      if (isElement(node)) this.takeElement(node);
      else if (isText(node)) this.takeText(node, where);
      return undefined;
    });
  }

  private takeElement(element: Element): void {
    switch (element.tagName) {
      case 'html':
        this.language = attribute(element, 'lang');
        break;
      case 'base':
        this.base ??= attribute(element, 'href');
        break;
      case 'a':
      case 'area':
        if (attribute(element, 'href') === null) break;
        if (this.links.length < MOST_LINKS) this.links.push(element);
        else this.linksBeyond += 1;
        break;
      case 'script':
        this.scripts += 1;
        break;
      case 'frame':
      case 'iframe':
        if (this.frames.length < MOST_FRAMES) this.frames.push(element);
        break;
      case 'img':
        if (this.images < MOST_IMAGES) this.others.push(element);
        this.images += 1;
        break;
      case 'meta':
        if (attribute(element, 'http-equiv')?.toLowerCase() === 'refresh')
          this.refresh ??= attribute(element, 'content') ?? '';
        else if (this.heads.length < MOST_LINKS) this.heads.push(element);
        break;
      case 'link':
        if (this.heads.length < MOST_LINKS) this.heads.push(element);
        break;
      case 'time':
      case 'video':
      case 'source':
        if (this.others.length < MOST_LINKS) this.others.push(element);
    }
  }

  private takeText(node: TextNode, where: NodePlace): void {
    const text = node.value.trim();
    if (text === '') return;
    const parent = parentName(node);
    if (parent === 'script') this.takeScript(node);
    if (WORDLESS.has(parent)) return;
    if (parent === 'title' && where === 'head' && this.title === '')
      this.title = text.slice(0, LONGEST_TITLE);
    if (this.headings.length < MOST_HEADINGS && isHeading(node)) this.headings += `${text} `;
    this.words.take(text);
    if (where !== 'body') return;
    this.letters += text.length;
    if (parent === 'a') this.lettersInLinks += text.length;
  }

  private takeScript({ parentNode: owner, value }: TextNode): void {
    if (owner && isElement(owner) && JSON_LD.test(attribute(owner, 'type') ?? '')) this.data.push(value);
    else if (this.script.length < MOST_SCRIPT) this.script += value.slice(0, MOST_SCRIPT);
  }
}

function isHeading({ parentNode }: TextNode): boolean {
  let above = parentNode;
  for (let level = 0; above && level < HEADING_LEVELS; level += 1) {
    if (!isElement(above)) return false;
    if (HEADINGS.has(above.tagName)) return true;
    above = above.parentNode;
  }
  return false;
}
