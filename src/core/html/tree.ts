import { parse, type DefaultTreeAdapterTypes } from 'parse5';

export type Node = DefaultTreeAdapterTypes.Node;
export type Element = DefaultTreeAdapterTypes.Element;

/** Where a node stands as a browser would build the page. */
export type NodePlace = 'head' | 'body' | 'template';

export interface Placed {
  readonly node: Node;
  readonly where: NodePlace;
}

/**
 * The nodes of a page in their order, as the HTML standard's tree builder makes them (§13.2.6).
 * @param locations whether nodes know their lines and columns: keeping them costs as much as the reading itself
 */
export function* nodesOf(text: string, locations = false): Generator<Placed> {
  // The mark that decoding takes off (the Encoding standard, §6.1) was kept for files, where it counts.
  const document = parse(text.replace(/^\ufeff/u, ''), { sourceCodeLocationInfo: locations });
  // Own stack: hostile pages nest deeper than a call stack reaches.
  const open: Placed[] = [{ node: document, where: 'body' }];
  for (let next = open.pop(); next; next = open.pop()) {
    yield next;
    const { node, where } = next;
    const inside = node.nodeName === 'head' || node.nodeName === 'template' ? node.nodeName : where;
    if ('content' in node) open.push({ node: node.content, where: 'template' });
    if ('childNodes' in node)
      for (let at = node.childNodes.length - 1; at >= 0; at -= 1) {
        const child = node.childNodes[at];
        if (child) open.push({ node: child, where: inside });
      }
  }
}

export function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

/** An attribute's value; null where it is not there. */
export function attribute(element: Element, name: string): string | null {
  return element.attrs.find((one) => one.name === name)?.value ?? null;
}

/** The name of the element that a text stands in; empty for text outside of any. */
export function parentName(node: Node): string {
  return 'parentNode' in node && node.parentNode && isElement(node.parentNode) ? node.parentNode.tagName : '';
}
