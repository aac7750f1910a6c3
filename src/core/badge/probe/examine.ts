import { textOf } from '../../html/body-text.js';
import type { Evidence, PageEvidence, PageSeen } from './evidence.js';
import { tokenWords } from '../token/known-token.js';
import { placeInText, readHeadTags, readPage, type MetaTag, type PageTags } from './page-tags.js';
import { isRight, tagStands } from './right-tag.js';
import type { MetaPlacement, Placement } from '../placement.js';

/** The pages among the evidence, each read once. */
export interface PagesRead {
  readonly page: PageTags | null;
  readonly fresh: PageTags | null;
  /** By the address of the page. */
  readonly elsewhere: ReadonlyMap<string, PageTags>;
}

/** Evidence made ready for judging: pages are read, and the words in them that might be somebody's token are known. */
export interface Examined {
  readonly pages: PagesRead;
  readonly words: readonly string[];
}

const NOTHING_READ: PagesRead = { page: null, fresh: null, elsewhere: new Map() };
/** What a file placement's answer is searched for foreign tokens; a token file is short. */
const FILE_START = 2048;

/**
 * Reads what was fetched for a placement. Pure, and done once for a look.
 * @param page the page of the first look, where the caller has read it already
 */
export function examine(
  placement: Placement,
  evidence: Evidence,
  page: PageTags | null = readFirst(placement, evidence),
): Examined {
  if (evidence.kind === 'dns') {
    const all = [...evidence.records, ...evidence.nearby.flatMap(({ records }) => records)];
    return { pages: NOTHING_READ, words: tokenWords(all.map(({ value }) => value)) };
  }
  if (placement.method !== 'meta') {
    const bodies = [evidence.body, ...evidence.elsewhere.map(({ body }) => body)];
    return {
      pages: NOTHING_READ,
      words: tokenWords(bodies.map((body) => (body ? textOf(body) : '').slice(0, FILE_START))),
    };
  }
  const pages = readPages(placement, evidence, page);
  return { pages, words: tokenWords((pages.page?.tags ?? []).map(({ content }) => content)) };
}

/** Reads the page that the first look found; null where there is none to read. */
export function readFirst(placement: Placement, seen: PageSeen | Evidence): PageTags | null {
  if (placement.method !== 'meta' || !('body' in seen) || seen.body === null) return null;
  const text = textOf(seen.body);
  const url = seen.hops.at(-1)?.url ?? placement.place;
  const hints = [placement.content, `${placement.name}"`];
  // Engines look for a tag in the head alone: on most pages that is all that has to be read.
  const page = readHeadTags(text, hints, url) ?? readPage(text, hints, { locations: false, url });
  // Where something is wrong, it matters where; where all is well, only the place of the tag does.
  if (!tagStands(placement, page)) return readPage(text, hints, { url });
  const isIt = (tag: MetaTag) => isRight(placement, tag);
  return { ...page, tags: page.tags.map((tag) => (isIt(tag) ? { ...tag, ...placeInText(text, tag) } : tag)) };
}

function readPages(placement: MetaPlacement, evidence: PageEvidence, page: PageTags | null): PagesRead {
  const read = (seen: PageSeen) => readFirst(placement, seen);
  const elsewhere = evidence.elsewhere.flatMap((seen) => {
    const page = read(seen);
    return page === null ? [] : [[seen.url, page] as const];
  });
  return {
    page,
    fresh: evidence.fresh === null ? null : read(evidence.fresh),
    elsewhere: new Map(elsewhere),
  };
}
