import { parse, type DefaultTreeAdapterTypes } from 'parse5';
import { finding } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import type { Body, PageEvidence } from './evidence.js';
import { judgeReach, judgeStatus } from './judge-reach.js';
import type { MetaPlacement } from './placement.js';
import { same } from './same.js';

type Node = DefaultTreeAdapterTypes.Node;
type Element = DefaultTreeAdapterTypes.Element;

interface MetaTag {
  readonly name: string | null;
  readonly content: string;
  readonly inHead: boolean;
  readonly line: number;
}

/** What a page says about a meta placement. The HTML standard's tree building decides what is in the head. */
export function judgeMeta(placement: MetaPlacement, evidence: PageEvidence): Finding[] {
  const findings = judgeReach(evidence, placement.redirects);
  const last = evidence.hops.at(-1);
  if (evidence.end !== 'answered' || !last) return findings;
  const status = judgeStatus(last);
  if (status) return [...findings, status];
  const body = evidence.body;
  if (!body || body.bytes === 0) return [...findings, finding('reach.empty', { url: last.url })];
  if (body.mediaType !== null && !/html/.test(body.mediaType)) {
    return [
      ...findings,
      finding('meta.not-html', { url: last.url, mediaType: excerpt(body.mediaType), tag: placement.tag }),
    ];
  }
  const large = body.cut ? [finding('reach.too-large', { url: last.url, bytes: body.bytes })] : [];
  return [...findings, ...judgeTags(placement, metaTags(body), last.url), ...large];
}

function judgeTags(placement: MetaPlacement, tags: readonly MetaTag[], url: string): Finding[] {
  const base = { url, name: placement.name, tag: placement.tag, content: placement.content };
  const ours = tags.filter((tag) => tag.name?.toLowerCase() === placement.name.toLowerCase());
  const isRight = (tag: MetaTag) => same(placement.compare, tag.content, placement.content);
  const inHead = ours.filter((tag) => tag.inHead);
  const right = inHead.find(isRight);
  if (right) {
    const stands = finding('meta.stands', { ...base, line: right.line });
    return inHead.every(isRight)
      ? [stands]
      : [stands, finding('meta.repeated', { ...base, times: inHead.length })];
  }
  const outside = ours.find((tag) => !tag.inHead && isRight(tag));
  if (outside) return [finding('meta.in-body', { ...base, line: outside.line })];
  const other = inHead[0] ?? ours[0];
  if (other)
    return [finding('meta.other-value', { ...base, line: other.line, found: excerpt(other.content) })];
  return [finding('meta.absent', { ...base, tags: tags.length })];
}

/** Every meta element of a page, in document order. */
export function metaTags(body: Body): MetaTag[] {
  const document = parse(body.text, { sourceCodeLocationInfo: true });
  const tags: MetaTag[] = [];
  // Own stack: hostile pages nest deeper than a call stack reaches.
  const open: { node: Node; inHead: boolean }[] = [{ node: document, inHead: false }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { node } = next;
    const inHead = next.inHead || node.nodeName === 'head';
    if (isElement(node) && node.tagName === 'meta') tags.push(readTag(node, inHead));
    if ('childNodes' in node) {
      for (const child of node.childNodes.toReversed()) open.push({ node: child, inHead });
    }
  }
  return tags;
}

function isElement(node: Node): node is Element {
  return 'tagName' in node;
}

function readTag(element: Element, inHead: boolean): MetaTag {
  const value = (name: string) => element.attrs.find((attribute) => attribute.name === name)?.value ?? null;
  return {
    name: value('name')?.trim() ?? null,
    content: value('content') ?? '',
    inHead,
    line: element.sourceCodeLocation?.startLine ?? 0,
  };
}
