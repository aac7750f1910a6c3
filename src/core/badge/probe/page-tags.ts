import {
  attribute,
  isElement,
  isText,
  metaElementsIn,
  parentName,
  readHead,
  readTree,
  type Beyond,
  type Element,
  type HowToRead,
  type Tree,
  type Node,
} from '../../html/tree.js';
import { isPlain } from '../../html/plain.js';
import { MOST_SCRIPT, clientRedirectOf, type ClientRedirect } from '../../html/client-redirect.js';

/** Where a tag stands as a browser would build the page; only `head` counts for engines. */
export type TagPlace = 'head' | 'body' | 'comment' | 'noscript' | 'template' | 'script' | 'text';

export interface MetaTag {
  readonly name: string | null;
  /** True when the name stands in `property=` where `name=` is meant. */
  readonly byProperty: boolean;
  readonly content: string;
  readonly where: TagPlace;
  readonly line: number;
  readonly column: number;
}

/** What a page holds, as far as placements and variants need it. */
export interface PageTags {
  readonly tags: readonly MetaTag[];
  /** The element that ended the head before its time, as `<div> on line 7`; null where the head ended itself. */
  readonly headEndedBy: string | null;
  /** The other address that the whole page is a frame around; null where it is a page of its own. */
  readonly frame: string | null;
  /** Where the page sends its visitors on, so that engines that look for a tag see this page and no other. */
  readonly sentOn: ClientRedirect | null;
  /**
   * The same page as those see it who run no scripts, where that differs: a `noscript` is read then, and what may not stand in
   * the head ends it there too (HTML standard §13.2.6.4.5).
   */
  readonly withoutScripts: Pick<PageTags, 'tags' | 'headEndedBy'> | null;
  /** What the page has more of than is read of any; null where it was read to its end. */
  readonly beyond: Beyond | null;
}

/** A page that says nothing. */
export const NO_TAGS: PageTags = {
  tags: [],
  headEndedBy: null,
  frame: null,
  sentOn: null,
  withoutScripts: null,
  beyond: null,
};

/** Elements that a page which only frames another has besides the frame. */
const FRAMES = new Set(['frame', 'iframe']);
/** Tags that are looked at; a page with more has them from a machine that ran wild. */
const MOST_TAGS = 2_000;
/** Places where a tag may be hidden that are read again as markup, and letters of each. */
const MOST_HIDDEN = 200;
const LONGEST_HIDDEN = 20_000;
/** A value that is longer than any that is looked for. */
const LONGEST_CONTENT = 4_096;
/** Against what addresses of a page are resolved that nobody told where it was. */
const NOWHERE = 'https://nowhere.invalid/';
const WORDLESS = new Set(['script', 'style', 'noscript', 'noframes', 'template', 'title']);

/**
 * Reads a page as the HTML standard's tree builder does, so that an element that may not stand in the head ends it.
 * @param text the page
 * @param hints words by which hidden tags are worth looking for (the tag's name, the token)
 * @param how without locations every tag is at line 0; `url` is where the page was fetched
 */
export function readPage(
  text: string,
  hints: readonly string[],
  { locations = true, scripting = true, url = NOWHERE }: HowToRead & { readonly url?: string } = {},
): PageTags {
  const own = tagsIn(readTree(text, { locations, scripting }), hints, { locations, url });
  const isAsked = scripting && /<noscript/iu.test(text);
  const { tags: others, headEndedBy: ender } = isAsked
    ? readPage(text, hints, { locations, scripting: false, url })
    : own;
  return { ...own, withoutScripts: isAsked ? { tags: others, headEndedBy: ender } : null };
}

/**
 * What the head of a page says to those who run scripts and to those who do not, without reading its body: enough for whoever finds
 * there what they look for. Null where the rest may have a say all the same: as a frame, or as what nobody reads to its end.
 */
export function readHeadTags(text: string, hints: readonly string[], url: string): PageTags | null {
  const tree = readHead(text, true);
  if (tree.beyond !== null || !isPlain(tree.rest)) return null;
  const own = tagsIn(tree, hints, { locations: false, url });
  if (!/<noscript/iu.test(tree.head)) return { ...own, withoutScripts: null };
  const { tags } = tagsIn(readHead(text, false), hints, { locations: false, url });
  return { ...own, withoutScripts: { tags, headEndedBy: null } };
}

/** What a page that was read says of itself, as `readPage`, to those who run scripts or not as the tree was made. */
export function tagsIn(
  tree: Tree,
  hints: readonly string[],
  { locations, url = NOWHERE }: { readonly locations: boolean; readonly url?: string },
): Omit<PageTags, 'withoutScripts'> {
  const tags: MetaTag[] = [];
  const frames: string[] = [];
  let letters = 0;
  let refresh: string | undefined;
  let script = '';
  let headEndedBy: string | null = null;
  let readAgain = 0;
  const look = (data: string, place: TagPlace, node: Node): void => {
    if (readAgain >= MOST_HIDDEN || !hints.some((hint) => data.includes(hint))) return;
    readAgain += 1;
    tags.push(...hidden(data, place, node, hints));
  };
  tree.visit((node, where) => {
    if (tags.length >= MOST_TAGS) return false;
    if (isElement(node)) {
      if (node.tagName === 'meta') {
        tags.push(readTag(node, where));
        if (attribute(node, 'http-equiv')?.toLowerCase() === 'refresh')
          refresh ??= attribute(node, 'content') ?? '';
      }
      if (locations && node.tagName === 'body' && !node.sourceCodeLocation) headEndedBy = firstIn(node);
      if (FRAMES.has(node.tagName)) frames.push(attribute(node, 'src') ?? '');
    }
    if (node.nodeName === '#comment' && 'data' in node) look(node.data, 'comment', node);
    if (isText(node)) {
      const parent = parentName(node);
      const place = parent === 'script' ? 'script' : parent === 'noscript' ? 'noscript' : 'text';
      if (parent === 'script' && script.length < MOST_SCRIPT)
        script += `\n${node.value.slice(0, MOST_SCRIPT - script.length)}`;
      if (!WORDLESS.has(parent) && where === 'body') letters += node.value.trim().length;
      if (parent !== 'style') look(node.value, place, node);
    }
    return undefined;
  });
  const isOnlyFrames = letters < 200 && frames.length > 0 && frames.length <= 2;
  const outward = frames.find((address) => /^(https?:)?\/\//iu.test(address));
  return {
    tags,
    headEndedBy,
    frame: isOnlyFrames ? (outward ?? null) : null,
    sentOn: clientRedirectOf({ refresh, script, letters, base: url }),
    beyond: tree.beyond,
  };
}

/**
 * Where a tag that stands in the head was written, found by its text: for pages that were read without locations.
 * @returns line and column, counted from 1; line 0 where the text does not show it
 */
export function placeInText(
  text: string,
  tag: Pick<MetaTag, 'name' | 'content'>,
): { line: number; column: number } {
  const name = tag.name?.toLowerCase() ?? '';
  for (const match of text.matchAll(/<meta\b[^<>]{0,8000}>/giu))
    if (match[0].includes(tag.content.trim()) && match[0].toLowerCase().includes(name)) {
      const before = text.slice(0, match.index);
      return { line: before.split('\n').length, column: match.index - before.lastIndexOf('\n') };
    }
  return { line: 0, column: 0 };
}

function firstIn(body: Element): string | null {
  const first = body.childNodes.find(isElement);
  const line = first?.sourceCodeLocation?.startLine;
  return first && line !== undefined ? `<${first.tagName}> on line ${String(line)}` : null;
}

function readTag(element: Element, where: TagPlace): MetaTag {
  const name = attribute(element, 'name')?.trim() ?? null;
  const property = attribute(element, 'property')?.trim() ?? null;
  return {
    name: name ?? property,
    byProperty: name === null && property !== null,
    content: (attribute(element, 'content') ?? '').slice(0, LONGEST_CONTENT),
    where,
    line: element.sourceCodeLocation?.startLine ?? 0,
    column: element.sourceCodeLocation?.startCol ?? 0,
  };
}

/** Tags that are written in a place where no engine reads them: as text, in a comment, in a script's string. */
function hidden(text: string, where: TagPlace, node: Node, hints: readonly string[]): MetaTag[] {
  const at = 'sourceCodeLocation' in node ? node.sourceCodeLocation : undefined;
  const place = { where, line: at?.startLine ?? 0, column: at?.startCol ?? 0 };
  const from = text.search(/<\s*meta\b/iu);
  const markup = text.slice(from, from + LONGEST_HIDDEN).replace(/\\(["'/])/gu, '$1');
  const tags = from === -1 ? [] : metaElementsIn(markup, MOST_TAGS);
  if (tags.length > 0) return tags.map((tag) => ({ ...readTag(tag, where), ...place }));
  // A script that puts the tag together from parts, or a value without its tag.
  return [
    { ...place, name: null, byProperty: false, content: hints.find((hint) => text.includes(hint)) ?? '' },
  ];
}
