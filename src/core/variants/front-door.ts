import { registrableOf } from '../address/host.js';
import { addressText, parseAddress, type WebAddress } from '../address/web-address.js';
import type { PageSeen } from '../badge/look/evidence.js';

export type FrontDoor =
  | { readonly kind: 'found'; readonly address: WebAddress; readonly moved: boolean }
  | { readonly kind: 'elsewhere'; readonly url: string }
  | { readonly kind: 'dark'; readonly url: string };

/**
 * Where visitors end up who ask for an address.
 * @param asked the address of the property as it was pasted
 * @param evidence what was seen when asking for it
 * @returns `found` when a page answers on the same registrable domain; `elsewhere` when the redirects leave it; `dark` when nothing answers
 */
export function frontDoorOf(asked: WebAddress, evidence: PageSeen): FrontDoor {
  const last = evidence.hops.at(-1);
  const url = last?.url ?? addressText(asked);
  if (!last || evidence.end !== 'answered' || last.status === null || last.status >= 500)
    return { kind: 'dark', url };
  const end = new URL(url);
  if (registrableOf(end.hostname) !== registrableOf(asked.host)) return { kind: 'elsewhere', url };
  if (last.status >= 400) return { kind: 'dark', url };
  const seen = parseAddress(`${end.origin}${end.pathname}`);
  // A page below the asked folder (a start page, a language) is no other property: the folder stays.
  const address = seen.path.startsWith(asked.path) ? { ...seen, path: asked.path } : seen;
  return { kind: 'found', address, moved: addressText(address) !== addressText(asked) };
}
