import type { Frontier } from '../../core/sitemap/make/frontier.js';
import type { Looked, Waiting } from './page-book.js';

/** What an address amounts to that is not asked for. */
type Unasked = Omit<Looked, keyof Waiting | 'folder'>;

/** What an address amounts to that need not be asked for, since many like it were; null for one that is to be asked for. */
export function unasked(url: string, ways: Frontier): Unasked | null {
  if (ways.isHopeless(url)) return NOTHING_THERE;
  if (ways.isFile(url)) return A_FILE;
  if (ways.isVisit(url)) return A_VISIT;
  return ways.isMixture(url) ? A_MIXTURE : null;
}

/** One more of a shape of which none leads to anything. */
const NOTHING_THERE: Unasked = {
  state: 'out',
  why: 'gone',
  detail: 'not asked for: fifty of its shape led to nothing',
  kind: null,
  title: null,
  modified: null,
  header: null,
  seenAt: null,
  face: null,
  more: null,
};

/** One more address of a page, as each visit gets one. */
const A_VISIT: Unasked = {
  ...NOTHING_THERE,
  why: 'double',
  detail: 'not asked for: each visit gets a part of the path of its own, and sees the same',
};

const A_FILE: Unasked = {
  ...NOTHING_THERE,
  why: 'no-page',
  detail: 'not asked for: twenty that end like it in its folder were no page',
};

const A_MIXTURE: Unasked = {
  ...NOTHING_THERE,
  why: 'parameters',
  detail: 'not asked for: of hundreds with these parameters hardly one had anything of its own',
};
