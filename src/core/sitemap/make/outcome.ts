import type { Hop } from '../../badge/probe/evidence.js';
import { failureSays } from '../../variants/roles.js';
import { MAX_LOCATION } from '../read/limits.js';
import type { PageRead } from './page-read.js';
import type { PageKind } from './recipe.js';
import { normal, type LeftOut } from './frontier.js';

/** What came of looking at one address. */
export interface Outcome {
  /** Null where it may go in. */
  readonly out: LeftOut | null;
  /** What was seen that keeps it out, in a few words: a status, an address. */
  readonly detail: string | null;
  /** Another address that it leads to, which is to be looked at in its place. */
  readonly leadsTo: string | null;
}

const GOES_IN: Outcome = { out: null, detail: null, leadsTo: null };
const HTML = new Set(['text/html', 'application/xhtml+xml']);
/** What engines list besides pages. */
const DOCUMENTS =
  /^application\/(?:pdf|postscript|rtf|epub\+zip|msword|vnd\.(?:ms-excel|ms-powerpoint|oasis\.opendocument\.\w+|openxmlformats-officedocument\.[\w.]+))$/u;

export function isPage(mediaType: string | null): boolean {
  return mediaType !== null && HTML.has(mediaType);
}

/**
 * What one answer amounts to before it is read; redirects are not followed, since where they lead is an address like another.
 * @returns null where it is a page that is to be read
 */
export function beforeReading({ failure, location, status }: Hop, mediaType: string | null): Outcome | null {
  if (failure !== null || status === null)
    return { out: 'no-answer', detail: failureSays(failure), leadsTo: null };
  if (location !== null)
    return { out: 'redirect', detail: location.slice(0, MAX_LOCATION), leadsTo: location };
  if (status === 404 || status === 410) return { out: 'gone', detail: String(status), leadsTo: null };
  if (status !== 200) return { out: 'refused', detail: String(status), leadsTo: null };
  if (isPage(mediaType)) return null;
  if (mediaType !== null && DOCUMENTS.test(mediaType)) return GOES_IN;
  return { out: 'no-page', detail: mediaType, leadsTo: null };
}

/** What a page amounts to once it was read. @param own its address as it is kept */
export function afterReading(own: string, page: PageRead): Outcome {
  if (page.staysAway !== null)
    return { out: 'stays-away', detail: page.staysAway.slice(0, 200), leadsTo: null };
  if (page.sentOn !== null) return { out: 'sent-on', detail: page.sentOn, leadsTo: page.sentOn };
  if (page.canonical !== null && page.canonical !== own && normal(page.canonical) !== normal(own))
    return { out: 'canonical', detail: page.canonical, leadsTo: page.canonical };
  return GOES_IN;
}

/** Addresses by which the parts of a list are usually told apart. */
const PART_OF_LIST = /[?&/](?:page|seite|p)[=/]\d+/iu;
/** That end in a number: only with one of these the links to the next and the one before make a page part of a list. */
const NUMBERED = /[=/]\d+\/?$/u;

/** What a page is. @param depth links from the front door */
export function kindOf(
  url: string,
  depth: number,
  mediaType: string | null,
  page: PageRead | null,
): PageKind {
  const { pathname, search } = new URL(url);
  if (!isPage(mediaType)) return 'document';
  if (depth === 0 && search === '') return 'front';
  if (page?.data.isArticle === true) return 'article';
  if (page?.data.isProduct === true) return 'product';
  if (PART_OF_LIST.test(pathname + search) || (page?.isListing === true && NUMBERED.test(pathname + search)))
    return 'listing';
  return search === '' ? 'page' : 'with-query';
}
