import { registrableOf } from '../address/host.js';
import { addressText, type WebAddress } from '../address/web-address.js';

export type SitemapEntry =
  | { readonly kind: 'address'; readonly url: string; readonly note: string | null }
  | { readonly kind: 'refused'; readonly says: string };

const EXPECTED = 'Expected a path such as /sitemap.xml or the whole address of the sitemap.';

/**
 * Reads what was typed as a sitemap's address, against the property's front door. A variant of the property that is not
 * the front door is set right, and what was changed is told.
 * @param typed a file name, a path, an address without scheme, or a whole address
 */
export function readSitemapEntry(frontDoor: WebAddress, typed: string): SitemapEntry {
  const text = typed.trim().replace(/^[<"'“”]+|[>"'“”]+$/gu, '');
  if (text === '') return { kind: 'refused', says: `Nothing was given. ${EXPECTED}` };
  const url = resolve(frontDoor, text);
  if (url === null)
    return { kind: 'refused', says: `“${text.slice(0, 80)}” cannot be read as an address. ${EXPECTED}` };
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    return { kind: 'refused', says: `“${url.protocol}//” is not how sitemaps are fetched. ${EXPECTED}` };
  if (registrableOf(url.hostname) !== registrableOf(frontDoor.host))
    return {
      kind: 'refused',
      says: `${url.hostname} does not belong to ${addressText(frontDoor)}. ${EXPECTED}`,
    };
  url.hash = '';
  const door = new URL(addressText(frontDoor));
  if (url.origin === door.origin) return settled(frontDoor, url, null);
  if (bare(url.hostname) !== bare(door.hostname) || url.port !== '')
    return settled(frontDoor, url, `The sitemap is at ${url.origin}; the front door is ${door.origin}.`);
  const right = new URL(url.pathname + url.search, door);
  return settled(
    frontDoor,
    right,
    `${url.origin} was made ${door.origin}: the front door is there, and engines take the two for different places.`,
  );
}

/** What cannot belong to a property in a folder is refused: it would list the neighbours'. One at the root may well list all. */
function settled(door: WebAddress, url: URL, note: string | null): SitemapEntry {
  const isBeside =
    door.path !== '/' && !url.pathname.startsWith(door.path) && url.pathname.lastIndexOf('/') > 0;
  if (isBeside)
    return {
      kind: 'refused',
      says: `${url.href} is outside of ${addressText(door)}: a sitemap speaks for its own folder only. ${EXPECTED}`,
    };
  return { kind: 'address', url: url.href, note };
}

function bare(host: string): string {
  return host.replace(/^www\./u, '');
}

function resolve(frontDoor: WebAddress, text: string): URL | null {
  const base = addressText(frontDoor);
  // `www.quay.example/s.xml` and `quay.example/s.xml` are addresses without a scheme; `maps/s.xml` is a path.
  const withoutScheme = /^[^/:?#.]+(\.[^/:?#.]+)+(:\d+)?\//u.test(text);
  try {
    return new URL(withoutScheme ? `${frontDoor.scheme}://${text}` : text, base);
  } catch {
    return null;
  }
}
