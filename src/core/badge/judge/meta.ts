import { textOf } from '../../html/body-text.js';
import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { judgeCopy } from './copy.js';
import { judgeKeepingOut } from './keeping-out.js';
import {
  isOursToChange,
  judgeTaken,
  judgeValue,
  unlikeness,
  type JudgeContext,
  type Judging,
} from './value.js';
import type { Body, PageEvidence } from '../probe/evidence.js';
import type { Examined } from '../probe/examine.js';
import { judgePage } from './reach.js';
import { NO_TAGS, type MetaTag, type PageTags, type TagPlace } from '../probe/page-tags.js';
import type { MetaPlacement } from '../placement.js';
import type { PageEncoding } from '../../html/encoding.js';
import { BEYOND } from '../../html/tree.js';
import { isNamed, isRight, readTags, standings, tagStands } from '../probe/right-tag.js';
import { same } from '../probe/comparison.js';

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
  context: Judging,
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
    context.at,
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
  const at = evidence.elsewhere.find(({ url, kind }) => {
    // Read as this page is: what only scripts bring there is no more there than here.
    const there = examined.pages.elsewhere.get(url);
    return (
      kind === 'other-variant' && there !== undefined && tagStands(placement, asSeenBy(placement, there))
    );
  });
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
  const right = readTags(placement, page.tags).find((tag) => isRight(placement, tag));
  if (right) {
    const inHead = named.filter(({ where }) => where === 'head');
    const stands = finding('meta.stands', at(right));
    return inHead.every((tag) => isRight(placement, tag))
      ? [stands]
      : [stands, finding('meta.repeated', { ...base, times: inHead.length })];
  }
  const crowded = judgeCrowd(placement, page, at, context);
  if (crowded !== null) return [crowded];
  const holds = (tag: MetaTag) => same(placement.compare, tag.content, placement.content);
  const isOurs = (tag: MetaTag) => holds(tag) || isOursToChange(placement, tag.content, context);
  const misplaced = page.tags.find(
    (tag) => tag.where !== 'head' && (holds(tag) || (isNamed(placement, tag) && isOurs(tag))),
  );
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

/** Which tags an engine reads that does not read any. */
const READS: Readonly<Record<Exclude<MetaPlacement['many'], 'any'>, string>> = {
  first: 'only the first tag of that name',
  last: 'only the last tag of that name',
  one: 'the tag only where it is the only one of that name',
};

/**
 * What stands in the way where an engine does not read any of several tags: another’s tag, whose place ours would take, so that
 * somebody has to be asked; or one of ours that is broken, or there twice. Null where nothing does.
 */
function judgeCrowd(
  placement: MetaPlacement,
  { tags }: PageTags,
  at: (tag: MetaTag) => Record<string, EvidenceValue>,
  context: JudgeContext,
): Finding | null {
  const { many } = placement;
  if (many === 'any') return null;
  const named = tags
    .filter((tag) => tag.where === 'head' && !tag.byProperty && isNamed(placement, tag))
    .slice(0, MOST_NAMED);
  const holds = (tag: MetaTag) => same(placement.compare, tag.content, placement.content);
  const isOurs = (tag: MetaTag) => holds(tag) || isOursToChange(placement, tag.content, context);
  const read = many === 'one' ? named : named.slice(...(many === 'first' ? [0, 1] : [-1]));
  const other = read.find((tag) => !isOurs(tag));
  if (other)
    return judgeTaken('meta', placement, other.content, { ...at(other), which: READS[many] }, context);
  const [single] = read;
  if (many !== 'one' && single && !holds(single))
    return judgeValue('meta', placement, single.content, at(single), context);
  const [kept, ...spare] = [...named].sort((a, b) => Number(holds(b)) - Number(holds(a)));
  const [second] = spare;
  if (many !== 'one' || kept === undefined || second === undefined) return null;
  return finding('meta.repeated-own', { ...at(second), found: excerpt(second.content), times: named.length });
}
