import { registrableOf } from '../address/host.js';
import { addressText, type WebAddress } from '../address/web-address.js';
import { finding } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import { isSameThing } from './fingerprint.js';
import type { VariantJudged } from './roles.js';
import { variantOf } from './to-try.js';

/** What the pages that answer say of one another: the same thing twice, canonical links, siblings in other languages, frames. */
export function judgePages(variants: readonly VariantJudged[], door: WebAddress): Finding[] {
  const url = addressText(door);
  const at = variants.find(({ address }) => address === url);
  const others = variants.filter(({ address }) => address !== url);
  return [
    ...others.flatMap((one) => beside(one, at, door)),
    ...(at?.role === 'front-door' ? [...canonical(at, door), ...siblings(at, variants, door)] : []),
  ];
}

function beside(one: VariantJudged, at: VariantJudged | undefined, door: WebAddress): Finding[] {
  const values = { url: one.address, door: addressText(door) };
  const { page, why } = one.seen;
  if (one.role === 'framed')
    return [finding('variants.framed', { ...values, frame: excerpt(page?.frame ?? 'another site') })];
  if (one.role !== 'answers') return [];
  if (isSameThing(page?.fingerprint ?? null, at?.seen.page?.fingerprint ?? null)) {
    const isNamed = page?.canonical != null && belongsTo(page.canonical, door);
    return [finding(isNamed ? 'variants.same-page-named' : 'variants.same-page', values)];
  }
  // The usual variants are meant to be one website; a host that was told or met besides may well be another place.
  const isMeant = why === 'usual' || why === 'taken-on';
  return [finding(isMeant ? 'variants.other-page' : 'variants.place-of-its-own', values)];
}

function canonical(at: VariantJudged, door: WebAddress): Finding[] {
  const named = at.seen.page?.canonical;
  if (named == null || belongsTo(named, door)) return [];
  const isAway = registrableOf(new URL(named).hostname) !== registrableOf(door.host);
  const code = isAway ? 'variants.canonical-away' : 'variants.canonical-elsewhere';
  return [finding(code, { url: at.address, canonical: named, door: addressText(door) })];
}

/** A sibling on one of the property's own variants that is not the front door. Other hosts and domains may well be siblings. */
function siblings(at: VariantJudged, variants: readonly VariantJudged[], door: WebAddress): Finding[] {
  const wrong = (at.seen.page?.siblings ?? []).find(({ url }) => {
    const own = addressText(variantOf(url, door.path));
    return (
      own !== addressText(door) && variants.some(({ address, role }) => address === own && role === 'leads')
    );
  });
  return wrong
    ? [
        finding('variants.sibling-elsewhere', {
          url: at.address,
          sibling: wrong.url,
          language: excerpt(wrong.language),
          door: addressText(door),
        }),
      ]
    : [];
}

function belongsTo(url: string, door: WebAddress): boolean {
  return addressText(variantOf(url, door.path)) === addressText(door);
}
