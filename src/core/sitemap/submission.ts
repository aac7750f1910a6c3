import { covers, targetForPeople, type Target } from '../address/reach.js';
import type { Badge } from '../badge/standing.js';
import type { EngineProfile } from '../profile/profile.js';

export type SubmissionForm =
  | { readonly kind: 'send'; readonly as: string }
  | {
      readonly kind: 'refused';
      readonly why: 'takes-none' | 'not-covered' | 'not-held';
      readonly says: string;
    };

/**
 * How a sitemap is made known to an engine: in the form that it wants, or why it would not take it.
 * @param url whole address of the sitemap
 */
export function submissionForm(
  profile: EngineProfile,
  target: Target,
  badge: Badge,
  url: string,
): SubmissionForm {
  if (!profile.sitemaps)
    return { kind: 'refused', why: 'takes-none', says: `${profile.title} takes no sitemaps.` };
  if (!covers(target, url)) {
    const reach = targetForPeople(target);
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
  // A path names one file only where the enrolment has one host; a name reaches many, so it needs the whole address.
  const form = target.reach === 'name' ? 'address' : profile.sitemaps.form;
  const { pathname, search } = new URL(url);
  return { kind: 'send', as: form === 'address' ? url : pathname + search };
}
