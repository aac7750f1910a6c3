import { addressForPeople, addressText, parseAddress, type WebAddress } from './web-address.js';
import { registrableOf, unicodeOf } from './host.js';

/** What an enrolment covers: a name with all hosts and schemes under it, or one address with all below it. */
export type Scope =
  | { readonly reach: 'name'; readonly name: string }
  | { readonly reach: 'address'; readonly address: WebAddress };

export type Reach = Scope['reach'];
export const REACHES = ['name', 'address'] as const;

/** The host that a target is at: its name, or that of its address. */
export function hostOf(target: Scope): string {
  return target.reach === 'name' ? target.name : target.address.host;
}

/** The text by which a target is stored and sent: a bare name, or a whole address. */
export function scopeText(target: Scope): string {
  return target.reach === 'name' ? target.name : addressText(target.address);
}

export function scopeForPeople(target: Scope): string {
  return target.reach === 'name' ? unicodeOf(target.name) : addressForPeople(target.address);
}

/** Reads what `targetText` wrote. */
export function parseScope(reach: Reach, text: string): Scope {
  return reach === 'name' ? { reach, name: text } : { reach, address: parseAddress(text) };
}

/**
 * Whether a target covers an address.
 * @example covers({reach:'name', name:'a.example'}, 'http://www.a.example/x') === true
 */
export function covers(target: Scope, url: string): boolean {
  let seen: URL;
  try {
    seen = new URL(url);
  } catch {
    return false;
  }
  if (target.reach === 'name')
    return seen.hostname === target.name || seen.hostname.endsWith(`.${target.name}`);
  const own = new URL(addressText(target.address));
  return seen.origin === own.origin && seen.pathname.startsWith(own.pathname);
}

/**
 * The name that an enrolment with reach `name` is made for: the registrable domain for it and its `www.`, else the host itself.
 * @returns null for a property in a folder: a name would cover the neighbours on the same host too
 */
export function nameFor(address: WebAddress): string | null {
  if (address.path !== '/') return null;
  const registrable = registrableOf(address.host);
  return address.host === `www.${registrable}` ? registrable : address.host;
}
