import { registrableOf } from '../address/host.js';
import { addressText, type WebAddress } from '../address/web-address.js';

export type SitemapEntry =
  | { readonly kind: 'address'; readonly url: string; readonly note: string | null }
  | { readonly kind: 'refused'; readonly says: string };

const EXPECTED = 'Expected a path such as /sitemap.xml or the whole address of the sitemap.';

/**
 * Reads what was typed as a sitemap's address, against the property's front door.
 * @param typed a file name, a path, an address without scheme, or a whole address
 */
export function readSitemapEntry(frontDoor: WebAddress, typed: string): SitemapEntry {
  const text = typed.trim();
  if (text === '') return { kind: 'refused', says: `Nothing was given. ${EXPECTED}` };
  const url = resolve(frontDoor, text);
  if (url === null)
    return { kind: 'refused', says: `“${text.slice(0, 80)}” cannot be read as an address. ${EXPECTED}` };
  if (url.protocol !== 'http:' && url.protocol !== 'https:') {
    return { kind: 'refused', says: `“${url.protocol}//” is not how sitemaps are fetched. ${EXPECTED}` };
  }
  if (registrableOf(url.hostname) !== registrableOf(frontDoor.host)) {
    return {
      kind: 'refused',
      says: `${url.hostname} does not belong to ${addressText(frontDoor)}. ${EXPECTED}`,
    };
  }
  url.hash = '';
  const door = new URL(addressText(frontDoor));
  const note =
    url.origin === door.origin ? null : `The sitemap is at ${url.origin}; the front door is ${door.origin}.`;
  return { kind: 'address', url: url.href, note };
}

function resolve(frontDoor: WebAddress, text: string): URL | null {
  const base = addressText(frontDoor);
  const withoutScheme = /^[^/:?#]+\.[^/:?#]+(:\d+)?\//.test(text);
  try {
    return new URL(withoutScheme ? `${frontDoor.scheme}://${text}` : text, base);
  } catch {
    return null;
  }
}
