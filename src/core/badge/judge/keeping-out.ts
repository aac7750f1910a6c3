import { finding } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { Finding } from '../../findings/finding.js';
import type { Hop } from '../look/evidence.js';
import type { MetaTag } from '../look/page-tags.js';

/** Directives by which a page asks engines not to show it. */
const STAY_AWAY = /\b(noindex|none)\b/iu;

/**
 * A page that asks engines to stay away may be owned, but will not be shown: by a robots meta tag or the header of the
 * same meaning.
 */
export function judgeKeepingOut(hop: Hop, tags: readonly MetaTag[]): Finding[] {
  const tag = tags.find(
    ({ name, content, where }) =>
      where === 'head' && name?.toLowerCase() === 'robots' && STAY_AWAY.test(content),
  );
  const header = hop.headers['x-robots-tag'];
  return [
    ...(tag
      ? [finding('reach.keeps-out-tag', { url: hop.url, line: tag.line, found: excerpt(tag.content) })]
      : []),
    ...(header !== undefined && STAY_AWAY.test(header)
      ? [finding('reach.keeps-out-header', { url: hop.url, found: excerpt(header) })]
      : []),
  ];
}
