import { finding } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { Finding } from '../../findings/finding.js';
import { asksToStayAway, stayAwayHeader } from '../../robots/directives.js';
import type { Hop } from '../probe/evidence.js';
import { placeInText, type MetaTag } from '../probe/page-tags.js';

/**
 * A page that asks engines to stay away may be owned, but will not be shown: by a robots meta tag or the header of the
 * same meaning.
 * @param text the page, by which the line of the tag is found where it was read without lines
 */
export function judgeKeepingOut(hop: Hop, tags: readonly MetaTag[], text = ''): Finding[] {
  const tag = tags.find(
    ({ name, content, where }) =>
      where === 'head' && name?.toLowerCase() === 'robots' && asksToStayAway(content),
  );
  const header = stayAwayHeader(hop.headers['x-robots-tag'] ?? '', null);
  const values = { url: hop.url, whom: 'engines' };
  const line = tag && (tag.line > 0 ? tag.line : placeInText(text, tag).line);
  return [
    ...(tag
      ? [finding('reach.keeps-out-tag', { ...values, line: line ?? 0, found: excerpt(tag.content) })]
      : []),
    ...(header === null ? [] : [finding('reach.keeps-out-header', { ...values, found: excerpt(header) })]),
  ];
}
