import { createHash } from 'node:crypto';
import { registrableOf } from '../../core/address/host.js';
import type { PageSeen } from '../../core/badge/probe/evidence.js';
import { isOutOfReach } from '../../core/badge/visibility.js';
import { SILENCE } from '../../core/watch/outage.js';

/**
 * What a look met, as far as it tells whether we can look at all: an answer that shows its website for sure; another one, with what tells
 * it apart; or one of which nobody can say.
 * `isNews` says whether it would be held against a website that stood well before: then others are asked first.
 */
export type ProbeOutcome =
  | { readonly kind: 'itself' }
  | {
      readonly kind: 'instead';
      readonly mark: string;
      /** The address that was dialled, where it came to that. */
      readonly address: string | null;
      readonly isNews: boolean;
    }
  | { readonly kind: 'unknown'; readonly isNews: boolean };

/**
 * Is told what a look met before that is recorded, so that an outage of our own is known before anything is held against a website.
 * @returns whether what came is not the website’s own doing, so that it says nothing of it
 */
export type Met = (look: ProbeOutcome) => Promise<boolean>;

/** For looks that a person asks for: nobody is told. */
export const UNREPORTED: Met = () => Promise.resolve(false);

/**
 * What tells one answer from another, whatever it means: silence; a certificate that is not trusted; where it was sent on to on another
 * domain; the bytes of a page, but for the host’s own name in it.
 */
function markOf({ hops, end, body }: PageSeen): string {
  const first = hops[0];
  const last = hops.at(-1);
  if (!first || !last) return SILENCE;
  if (isOutOfReach(last.failure)) return SILENCE;
  if (last.certificate !== null && last.failure !== null)
    return `certificate ${last.certificate.issuer} ${last.certificate.validFrom} ${last.certificate.names.join(' ')}`;
  if (end !== 'answered')
    return `${last.failure ?? end} ${last.failure === 'guarded' ? (last.address ?? '') : hostOf(last.url)}`;
  if (registrableOf(hostOf(last.url)) !== registrableOf(hostOf(first.url))) {
    const { origin, pathname } = new URL(last.url);
    return `to ${origin}${pathname}`;
  }
  const text = body === null ? '' : Buffer.from(body.raw).toString('latin1');
  const bare = text.replaceAll(hostOf(last.url), '').replaceAll(encodeURIComponent(last.url), '');
  return `page ${createHash('sha256').update(bare, 'latin1').digest('base64url')}`;
}

function hostOf(url: string): string {
  return new URL(url).hostname;
}

/** What a look at a page met that did not show what was looked for. */
export function pageOutcome(seen: PageSeen, isNews: boolean): ProbeOutcome {
  return { kind: 'instead', mark: markOf(seen), address: seen.hops.at(-1)?.address ?? null, isNews };
}

/** What a look met that got no answer at all. */
export const SILENT_OUTCOME: ProbeOutcome = { kind: 'instead', mark: SILENCE, address: null, isNews: false };
