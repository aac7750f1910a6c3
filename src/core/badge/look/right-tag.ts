import type { MetaTag, PageTags } from './page-tags.js';
import type { MetaPlacement } from '../placement.js';
import { same } from './same.js';

/** Whether the tag stands on a page where engines read it. */
export function tagStands(placement: MetaPlacement, page: PageTags): boolean {
  return page.tags.some((tag) => isRight(placement, tag));
}

/** Whether a tag has the name that the engine looks for; names are compared without regard to case. */
export function isNamed(placement: MetaPlacement, tag: MetaTag): boolean {
  return tag.name?.toLowerCase() === placement.name.toLowerCase();
}

/** Whether a tag is the one that is wanted, in the head and with the right value. */
export function isRight(placement: MetaPlacement, tag: MetaTag): boolean {
  return (
    tag.where === 'head' &&
    !tag.byProperty &&
    isNamed(placement, tag) &&
    same(placement.compare, tag.content, placement.content)
  );
}
