import type { MetaTag, PageTags } from './page-tags.js';
import type { MetaPlacement } from '../placement.js';
import { same } from './comparison.js';

/** Whether the tag stands on a page where engines read it. */
export function tagStands(placement: MetaPlacement, page: PageTags): boolean {
  const { withScripts, withoutScripts } = standings(placement, page);
  switch (placement.scripting) {
    case true:
      return withScripts;
    case false:
      return withoutScripts;
    case null:
      return withScripts && withoutScripts;
  }
}

/** Whether the tag stands for those who run the page's scripts, and for those who do not: the same on nearly every page. */
export function standings(
  placement: MetaPlacement,
  { tags, withoutScripts }: PageTags,
): { readonly withScripts: boolean; readonly withoutScripts: boolean } {
  const stands = (some: readonly MetaTag[]) =>
    readTags(placement, some).some((tag) => isRight(placement, tag));
  return { withScripts: stands(tags), withoutScripts: stands(withoutScripts?.tags ?? tags) };
}

/** Of the tags of the name that stand where engines read them those that this one reads. */
export function readTags(placement: MetaPlacement, tags: readonly MetaTag[]): readonly MetaTag[] {
  const named = tags.filter((tag) => tag.where === 'head' && !tag.byProperty && isNamed(placement, tag));
  switch (placement.many) {
    case 'any':
      return named;
    case 'first':
      return named.slice(0, 1);
    case 'last':
      return named.slice(-1);
    case 'one':
      return named.length === 1 ? named : [];
  }
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
