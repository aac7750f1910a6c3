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
      visitFrom(document, visitor);
    },
    beyond,
  };
}

/** Without the mark that decoding takes off (the Encoding standard, §6.1): it was kept for files, where it counts. */
function withoutMark(text: string): string {
  return text.startsWith('\ufeff') ? text.slice(1) : text;
}

function visitFrom(document: Node, visitor: Visitor): void {
  // Own stacks: pages nest deeper than a call stack should reach.
  const open: Node[] = [document];
  const places: NodePlace[] = ['body'];
  for (let node = open.pop(); node; node = open.pop()) {
    const where = places.pop() ?? 'body';
    if (visitor(node, where) === false) return;
    if (isLeaf(node)) continue;
    const { nodeName } = node;
    const inside = nodeName === 'head' || nodeName === 'template' ? nodeName : where;
    if (nodeName === 'template' && 'content' in node) {
      open.push(node.content);
      places.push('template');
    }
    for (let at = node.childNodes.length - 1; at >= 0; at -= 1) {
      const child = node.childNodes[at];
      if (!child) continue;
      open.push(child);
      places.push(inside);
    }
  }
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
