import type { DefaultTreeAdapterTypes } from 'parse5';
import { parseBounded, type Beyond, type BoundedDocument } from './bounded.js';

export { BEYOND, type Beyond } from './bounded.js';
export type Node = DefaultTreeAdapterTypes.Node;
export type Element = DefaultTreeAdapterTypes.Element;
export type TextNode = DefaultTreeAdapterTypes.TextNode;

/** Where a node stands as a browser would build the page. */
export type NodePlace = 'head' | 'body' | 'template';

/** Is given one node after the other; none more once it says `false`. */
export type Visitor = (node: Node, where: NodePlace) => false | undefined;

export interface Tree {
  /** Shows the nodes of the page in their order. */
  visit(visitor: Visitor): void;
  /** What the page has more of than is read; null where it was read to its end. */
  readonly beyond: Beyond | null;
}

export interface HowToRead {
  /** Whether nodes know their lines and columns: keeping them costs as much as the reading itself. */
  readonly locations?: boolean;
  /** Whether scripts run, as they do for a browser; so it is where nobody says. */
  readonly scripting?: boolean;
}

/** Reads a page as the HTML standard's tree builder makes it, within bounds. Never throws. */
export function readTree(text: string, { locations = false, scripting = true }: HowToRead = {}): Tree {
  return treeOf(parseBounded(withoutMark(text), locations, scripting));
}

/** The head of a page, and the text that it was read from and that which follows; some letters at its end are in both. */
export interface HeadTree extends Tree {
  readonly head: string;
  readonly rest: string;
}

/** Reads the head of a page as `readTree` does, and nothing of its body: however long a page is, this costs no more than its head. */
export function readHead(text: string, scripting: boolean): HeadTree {
  const whole = withoutMark(text);
  const read = parseBounded(whole, false, scripting, 'head');
  return { ...treeOf(read), head: whole.slice(0, read.last.to), rest: whole.slice(read.last.from) };
}

function treeOf({ document, beyond }: BoundedDocument): Tree {
  return {
    visit: (visitor) => {
      visitFrom(document, visitor, 'body');
    },
    beyond,
  };
}

/** Without the mark that decoding takes off (the Encoding standard, §6.1): it was kept for files, where it counts. */
function withoutMark(text: string): string {
  return text.startsWith('\ufeff') ? text.slice(1) : text;
}

/**
 * Visits a node and all below it, no deeper than `parseBounded` lets a page nest.
 * @returns false once the visitor wants no more
 */
function visitFrom(node: Node, visitor: Visitor, where: NodePlace): boolean {
  if (visitor(node, where) === false) return false;
  if (isLeaf(node)) return true;
  const { nodeName, childNodes } = node;
  const inside = nodeName === 'head' || nodeName === 'template' ? nodeName : where;
  for (const child of childNodes) if (!visitFrom(child, visitor, inside)) return false;
  return nodeName === 'template' && 'content' in node ? visitFrom(node.content, visitor, 'template') : true;
}

/** The meta elements in a piece of text, wherever they stand in it. @param most of which no more are looked for */
export function metaElementsIn(text: string, most: number): Element[] {
  const found: Element[] = [];
  readTree(text).visit((node) => {
    if (isElement(node) && node.tagName === 'meta') found.push(node);
    return found.length < most ? undefined : false;
  });
  return found;
}

export function isElement(node: Node): node is Element {
  // What is no element has a name that begins with # (DOM standard §4.4). A look at its properties would cost several times as much.
  return node.nodeName.charCodeAt(0) !== NUMBER_SIGN;
}

const NUMBER_SIGN = 0x23;

export function isText(node: Node): node is TextNode {
  return node.nodeName === '#text';
}

function isLeaf(
  node: Node,
): node is TextNode | DefaultTreeAdapterTypes.CommentNode | DefaultTreeAdapterTypes.DocumentType {
  const { nodeName } = node;
  return nodeName === '#text' || nodeName === '#comment' || nodeName === '#documentType';
}

/** An attribute's value; null where it is not there. */
export function attribute(element: Element, name: string): string | null {
  return element.attrs.find((one) => one.name === name)?.value ?? null;
}

/** The name of the element that a text stands in; empty for text outside of any. */
export function parentName({ parentNode }: TextNode): string {
  return parentNode && isElement(parentNode) ? parentNode.tagName : '';
}
