import { covers, scopeForPeople, type Scope } from '../address/reach.js';
import type { Badge } from '../badge/standing.js';
import type { EngineProfile } from '../profile/profile.js';
import type { SitemapKind } from './reading.js';

const KINDS: Readonly<Record<SitemapKind, string>> = {
  urlset: 'a sitemap',
  index: 'an index of sitemaps',
  rss: 'an RSS feed',
  atom: 'an Atom feed',
  text: 'a list of addresses',
};

export type SubmissionForm =
  | { readonly kind: 'send'; readonly as: string }
  | {
      readonly kind: 'refused';
      readonly why: 'takes-none' | 'not-taken' | 'not-covered' | 'not-held' | 'too-many';
      readonly says: string;
    };

/**
 * How a sitemap is made known to an engine: in the form that it wants, or why it would not take it.
 * @param url whole address of the sitemap
 * @param kind what our newest reading found it to be; null while that is not known
 * @param known how many sitemaps the engine has for the enrolment already
 */
export function submissionForm(
  profile: EngineProfile,
  target: Scope,
  badge: Badge,
  url: string,
  kind: SitemapKind | null = null,
  known = 0,
): SubmissionForm {
  if (!profile.sitemaps)
    return { kind: 'refused', why: 'takes-none', says: `${profile.title} takes no sitemaps.` };
  if (kind !== null && !profile.sitemaps.formats.includes(kind))
    return {
      kind: 'refused',
      why: 'not-taken',
      says: `${url} is ${KINDS[kind]}; ${profile.title} takes ${profile.sitemaps.formats.map((one) => KINDS[one]).join(', ')}.`,
    };
  if (!covers(target, url)) {
    const reach = scopeForPeople(target);
    return {
      kind: 'refused',
      why: 'not-covered',
      says: `${url} is not covered by the enrolment of ${reach} at ${profile.title}.`,
    };
  }
  if (profile.sitemaps.needsBadge && badge !== 'held' && badge !== 'slipping') {
    return {
      kind: 'refused',
      why: 'not-held',
      says: `${profile.title} takes sitemaps only once the badge is held; it is ${badge}. Claim first.`,
    };
  }
  const { limit } = profile.sitemaps;
  if (known >= limit)
    return {
      kind: 'refused',
      why: 'too-many',
      says: `${profile.title} takes ${String(limit)} sitemaps for one enrolment and has ${String(known)}. Withdraw one, or submit an index of them.`,
    };
  // A path names one file only where the enrolment has one host; a name reaches many, so it needs the whole address.
  const form = target.reach === 'name' ? 'address' : profile.sitemaps.form;
  const { pathname, search } = new URL(url);
  return { kind: 'send', as: form === 'address' ? url : pathname + search };
}
