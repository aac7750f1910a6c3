import { registrableOf } from '../address/host.js';
import { addressText, type WebAddress } from '../address/web-address.js';

/** How a variant came to be looked at. */
export const VARIANT_WHYS = ['taken-on', 'usual', 'by-hand', 'redirect', 'canonical', 'sitemap'] as const;
export type VariantWhy = (typeof VARIANT_WHYS)[number];

export interface ToTry {
  readonly address: WebAddress;
  readonly why: VariantWhy;
}

/** A host beside the usual ones that belongs to a property. */
export interface ExtraHost {
  readonly host: string;
  readonly why: Exclude<VariantWhy, 'taken-on' | 'usual'>;
}

/** More variants than this of one property are not looked at in one go. */
export const MOST_VARIANTS = 60;

/** The bare name and its `www`, whichever of them is given. */
export function hostPair(host: string): [bare: string, www: string] {
  const bare = host.startsWith('www.') && registrableOf(host) !== host ? host.slice(4) : host;
  return [bare, `www.${bare}`];
}

/**
 * The variants to look at: http and https, bare and `www`, with the property's path; the hosts that belong to it
 * besides; and where its front door is another name by now, the usual variants of that.
 * An address with a port of its own has no other scheme, since a port speaks one.
 */
export function variantsToTry(
  takenOn: WebAddress,
  frontDoor: WebAddress | null,
  extra: readonly ExtraHost[],
): ToTry[] {
  const found: ToTry[] = [{ address: takenOn, why: 'taken-on' }];
  const usual = (host: string, why: VariantWhy) => {
    for (const scheme of ['https', 'http'] as const)
      found.push({ address: { scheme, host, port: null, path: takenOn.path }, why });
  };
  if (takenOn.port !== null)
    for (const host of hostPair(takenOn.host)) found.push({ address: { ...takenOn, host }, why: 'usual' });
  for (const host of hostPair(takenOn.host)) usual(host, 'usual');
  if (frontDoor) {
    found.push({ address: frontDoor, why: 'usual' });
    if (registrableOf(frontDoor.host) !== registrableOf(takenOn.host))
      for (const host of hostPair(frontDoor.host)) usual(host, 'usual');
  }
  for (const { host, why } of extra) usual(host, why);
  const once = new Map<string, ToTry>();
  for (const one of found) {
    const text = addressText(one.address);
    if (!once.has(text)) once.set(text, one);
  }
  return [...once.values()].slice(0, MOST_VARIANTS);
}

/** Whether people type this host: the registrable name and its `www`, or the host that the client named. */
export function isTyped(host: string, takenOn: WebAddress): boolean {
  const registrable = registrableOf(takenOn.host);
  return host === takenOn.host || hostPair(registrable).includes(host);
}

/** The variant that an address belongs to: its folder is the property's where it lies below that. */
export function variantOf(url: string, path: string): WebAddress {
  const { protocol, hostname, port, pathname } = new URL(url);
  const isBelow = pathname.startsWith(path) || `${pathname}/` === path;
  return {
    scheme: protocol === 'https:' ? 'https' : 'http',
    host: hostname,
    port: port === '' ? null : Number(port),
    path: isBelow ? path : pathname.slice(0, pathname.lastIndexOf('/') + 1),
  };
}
