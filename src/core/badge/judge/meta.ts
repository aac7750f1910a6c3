import { textOf } from '../../html/body-text.js';
import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { judgeCopy } from './copy.js';
import { judgeKeepingOut } from './keeping-out.js';
import { judgeValue, unlikeness, type JudgeContext } from './value.js';
import type { Body, PageEvidence } from '../look/evidence.js';
import type { Examined } from '../look/examine.js';
import { judgePage } from './reach.js';
import { NO_TAGS, type MetaTag, type PageTags, type TagPlace } from '../look/page-tags.js';
import type { MetaPlacement } from '../placement.js';
import type { PageEncoding } from '../../html/encoding.js';
import { BEYOND } from '../../html/tree.js';
import { isNamed, isRight, standings, tagStands } from '../look/right-tag.js';
import { same } from '../look/same.js';

/** Where no engine reads a tag, and the finding that says so. */
const HIDDEN: Readonly<Record<Exclude<TagPlace, 'head'>, FindingCode>> = {
  body: 'meta.outside-head',
  comment: 'meta.in-comment',
  noscript: 'meta.in-noscript',
  template: 'meta.in-template',
  script: 'meta.in-script',
  text: 'meta.as-text',
};

/** Tags of the right name that are compared with the right value; a page with more has them from a machine. */
const MOST_NAMED = 50;

/** What a page says about a meta placement. The HTML standard's tree building decides what is in the head. */
export function judgeMeta(
  placement: MetaPlacement,
  evidence: PageEvidence,
  examined: Examined,
  context: JudgeContext,
): Finding[] {
  const { way, last } = judgePage(evidence, placement);
  if (last === null) return way;
  const { body } = evidence;
  if (!body || body.bytes === 0) return [...way, finding('reach.empty', { url: last.url })];
  if (body.mediaType !== null && !/html/u.test(body.mediaType)) {
    const values = { url: last.url, mediaType: excerpt(body.mediaType), tag: placement.tag };
    return [...way, finding('meta.not-html', values)];
  }
  const page = asSeenBy(placement, examined.pages.page ?? NO_TAGS);
  const stands = (one: PageTags) => tagStands(placement, one);
  const copy = judgeCopy(
    'meta',
    evidence,
    stands(page),
    examined.pages.fresh && stands(examined.pages.fresh),
    {
      tag: placement.tag,
      name: placement.name,
    },
  );
  const large = body.cut ? [finding('reach.too-large', { url: last.url, bytes: body.bytes })] : [];
  return [
    ...way,
    ...copy,
    ...framed(page, last.url, stands(page), placement),
    ...(body.cut && !stands(page)
      ? [finding('meta.beyond-bound', { url: last.url, bytes: body.bytes, tag: placement.tag })]
      : []),
    ...beyondReading(page, last.url, stands(page), placement),
    ...sendsOn(placement, evidence, examined, page, last.url),
    ...otherVariant(placement, evidence, examined, stands(page)),
    ...byScripts(placement, page, last.url),
    ...judgeTags(placement, withTheTag(placement, page), last.url, context),
    ...judgeKeepingOut(last, page.tags, textOf(body)),
    ...large,
    ...encodingOf(body, last.url),
  ];
}

/** The page as the engine sees it, where it is known that it runs no scripts. */
function asSeenBy({ scripting }: MetaPlacement, page: PageTags): PageTags {
  return scripting === false && page.withoutScripts ? { ...page, ...page.withoutScripts } : page;
}

/** Of the two ways to see a page, the one in which the tag stands, if it does in either. */
function withTheTag(placement: MetaPlacement, page: PageTags): PageTags {
  const { withScripts, withoutScripts } = standings(placement, page);
  const isOpen = placement.scripting === null && !withScripts && withoutScripts;
  return isOpen && page.withoutScripts ? { ...page, ...page.withoutScripts } : page;
}

/** Where the tag stands for those who run scripts and not for the others, or the reverse, and nobody knows what the engine does. */
function byScripts(placement: MetaPlacement, page: PageTags, url: string): Finding[] {
  const { withScripts, withoutScripts } = standings(placement, page);
  if (placement.scripting !== null || withScripts === withoutScripts) return [];
  const ender = (withScripts ? page.withoutScripts?.headEndedBy : page.headEndedBy) ?? 'a noscript element';
  const whom = withScripts ? 'those who run its scripts' : 'those who run no scripts';
  return [finding('meta.depends-on-scripts', { url, whom, ender, tag: placement.tag })];
}

/** A page that only sends its visitors on is the page where engines stop: what stands behind it they do not see. */
function sendsOn(
  placement: MetaPlacement,
  { elsewhere }: PageEvidence,
  { pages }: Examined,
  page: PageTags,
  url: string,
): Finding[] {
  if (page.sentOn === null || tagStands(placement, page)) return [];
  const to = elsewhere.find(({ kind }) => kind === 'sent-on');
  const there = to && pages.elsewhere.get(to.url);
  const values = {
    url,
    to: excerpt(page.sentOn.url),
    how: page.sentOn.kind === 'refresh' ? 'a refresh in the page' : 'a script',
    tag: placement.tag,
  };
  return [finding(there && tagStands(placement, there) ? 'meta.stands-behind' : 'meta.sends-on', values)];
}

/** What is odd about how the page's bytes become text. */
function encodingOf({ encoding, raw }: Body, url: string): Finding[] {
  if (!encoding) return [];
  const { name, by, against } = encoding;
  const values = { url, encoding: name, by: SAID_BY[by], against: against ?? 'nothing' };
  if (against !== null) return [finding('reach.encoding-disputed', values)];
  if (name.startsWith('utf-16')) return [finding('reach.encoding-rare', values)];
  return by === 'default' && raw.some((byte) => byte > 0x7f)
    ? [finding('reach.encoding-unsaid', values)]
    : [];
}

const SAID_BY: Readonly<Record<PageEncoding['by'], string>> = {
  mark: 'its byte order mark',
  header: 'its Content-Type',
  meta: 'a meta element of its own',
  default: 'nothing, so that the usual is taken',
};

function beyondReading(page: PageTags, url: string, stands: boolean, { tag }: MetaPlacement): Finding[] {
  if (page.beyond === null) return [];
  const values = { url, what: BEYOND[page.beyond], tag };
  return [finding(stands ? 'reach.beyond-reading' : 'meta.beyond-reading', values)];
}

/** A page that only frames another shows engines nothing of that other one. */
function framed(page: PageTags, url: string, stands: boolean, placement: MetaPlacement): Finding[] {
  if (page.frame === null) return [];
  const values = { url, frame: excerpt(page.frame), tag: placement.tag };
  return [finding(stands ? 'reach.framed' : 'meta.behind-frame', values)];
}

function otherVariant(
  placement: MetaPlacement,
  evidence: PageEvidence,
  examined: Examined,
  stands: boolean,
): Finding[] {
  if (stands) return [];
  const at = evidence.elsewhere.find(
    ({ url, kind }) =>
      kind === 'other-variant' &&
      examined.pages.elsewhere.get(url)?.tags.some((tag) => isRight(placement, tag)) === true,
  );
  return at
    ? [finding('meta.other-variant', { url: placement.place, other: at.url, tag: placement.tag })]
    : [];
}

function judgeTags(placement: MetaPlacement, page: PageTags, url: string, context: JudgeContext): Finding[] {
  const base = { url, name: placement.name, tag: placement.tag, content: placement.content };
  const at = (tag: MetaTag): Record<string, EvidenceValue> => ({
    ...base,
    line: tag.line,
    column: tag.column,
  });
  const named = page.tags.filter((tag) => isNamed(placement, tag)).slice(0, MOST_NAMED);
  const right = named.find((tag) => isRight(placement, tag));
  if (right) {
    const inHead = named.filter(({ where }) => where === 'head');
    const stands = finding('meta.stands', at(right));
    return inHead.every((tag) => isRight(placement, tag))
      ? [stands]
      : [stands, finding('meta.repeated', { ...base, times: inHead.length })];
  }
  const holds = (tag: MetaTag) => same(placement.compare, tag.content, placement.content);
  const misplaced = page.tags.find((tag) => tag.where !== 'head' && (holds(tag) || isNamed(placement, tag)));
  const nearest = named
    .filter(({ where }) => where === 'head')
    .sort((a, b) => unlikeness(placement, a.content, context) - unlikeness(placement, b.content, context))[0];
  if (nearest) {
    if (!holds(nearest)) return [judgeValue('meta', placement, nearest.content, at(nearest), context)];
    return [finding('meta.by-property', at(nearest))];
  }
  if (misplaced && misplaced.where !== 'head') {
    const ender = page.headEndedBy ?? '</head>';
    const place = finding(HIDDEN[misplaced.where], { ...at(misplaced), ender });
    const isBoth = misplaced.where === 'body' && !holds(misplaced);
    return isBoth
      ? [place, judgeValue('meta', placement, misplaced.content, at(misplaced), context)]
      : [place];
  }
  const nameless = page.tags.find((tag) => tag.where === 'head' && holds(tag));
  if (nameless)
    return [finding('meta.wrong-name', { ...at(nameless), named: excerpt(nameless.name ?? 'no name') })];
  return [
    finding('meta.absent', { ...base, tags: page.tags.filter(({ where }) => where === 'head').length }),
  ];
}
