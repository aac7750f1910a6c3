import { addressText, parseAddress } from '../address/web-address.js';
import type { Finding } from '../findings/finding.js';
import type { Covering } from './cover.js';

/** Findings about an address that shows something, whose remedy has it redirect, so that whatever stands there is seen no more. */
const ENDS_A_PAGE: ReadonlySet<string> = new Set([
  'variants.same-page',
  'variants.other-page',
  'variants.framed',
  'variants.only-a-frame',
  'variants.by-refresh',
  'variants.by-script',
  'variants.no-https',
  'variants.leads-elsewhere',
]);

/**
 * A finding about a variant, as it may be sent on where something is proven at that very address: a redirect would take the proof away, so
 * nothing is asked for yet. Badges that are lost, and enrolments of which nothing stands, hold nothing.
 * @param enrolments those of the property, of all engines
 */
export function sparingProofs(
  found: Finding,
  enrolments: readonly (Covering & { readonly engine: string })[],
): Finding {
  const { url } = found.evidence;
  if (!ENDS_A_PAGE.has(found.code) || typeof url !== 'string') return found;
  const there = enrolments.filter(
    ({ target, badge }) =>
      target.reach === 'address' &&
      addressText(target.address) === addressText(parseAddress(url)) &&
      (badge === 'held' || badge === 'slipping' || badge === 'in-place'),
  );
  const engines = [...new Set(there.map(({ engine }) => engine))];
  if (engines.length === 0) return found;
  return {
    ...found,
    remedy: `Please leave ${url} as it is for now: ${engines.join(' and ')} ${engines.length === 1 ? 'looks' : 'look'} there for the proof of ownership, which a redirect would take away. We will tell you when it may lead elsewhere.`,
  };
}
