import { textOf } from '../../html/body-text.js';
import { mayBeCopy } from './copy-age.js';
import type { PageSeen } from './evidence.js';
import type { SiteTraits } from '../advice.js';
import { readPage } from './page-tags.js';

/**
 * What a look at the front page tells that matters to the choice of a method.
 * @param madeUp what a file that cannot exist answers
 * @returns null where no page answered
 */
export function siteTraits(page: PageSeen, madeUp: PageSeen): SiteTraits | null {
  const last = page.hops.at(-1);
  if (page.end !== 'answered' || last?.status !== 200 || page.body === null) return null;
  const generator = readPage(textOf(page.body), []).tags.find(
    ({ name, where }) => where === 'head' && name?.toLowerCase() === 'generator',
  );
  return {
    generator: generator ? generator.content.slice(0, 80) : null,
    cached: mayBeCopy(last),
    answersAnything: madeUp.end === 'answered' && madeUp.hops.at(-1)?.status === 200,
  };
}
