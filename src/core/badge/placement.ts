import { addressText, type WebAddress } from '../address/web-address.js';
import { registrableOf } from '../address/host.js';
import type { Scope } from '../address/reach.js';
import type {
  Comparison,
  DnsRule,
  EngineProfile,
  FileRule,
  ManyRule,
  MetaRule,
  Method,
  RedirectRule,
} from '../profile/profile.js';

interface Placed {
  /** The token alone, without what the engine wants around it. */
  readonly token: string;
  readonly compare: Comparison;
}

export interface MetaPlacement extends Placed {
  readonly method: 'meta';
  /** The page in whose head the tag has to stand. */
  readonly place: string;
  readonly name: string;
  readonly content: string;
  /** The whole element, ready to be pasted. */
  readonly tag: string;
  readonly redirects: RedirectRule;
  readonly mostRedirects: number;
  /** Which the engine reads of several tags of that name. */
  readonly many: ManyRule;
  /** Whether the engine reads the page as one that runs scripts; null where nobody knows. */
  readonly scripting: boolean | null;
}

export interface FilePlacement extends Placed {
  readonly method: 'file';
  readonly place: string;
  readonly fileName: string;
  /** Where the file goes, from the web root. */
  readonly path: string;
  readonly content: string;
  /** Whether nobody else’s token can be looked for there, since the path has this token in it. */
  readonly isOwnPath: boolean;
  readonly bytes: number;
  /** The folder of the property itself, which is not the root for one in a folder. */
  readonly home: string;
  readonly redirects: RedirectRule;
  readonly mostRedirects: number;
}

export interface DnsPlacement extends Placed {
  readonly method: 'dns';
  /** The owner name, absolute, without the trailing dot. */
  readonly place: string;
  /** The name that the record is about: the place without its label, if it has one. */
  readonly owner: string;
  /** The zone as far as the public suffix list tells. */
  readonly zone: string;
  /** The owner name as a DNS panel wants it: relative to the zone, `@` for the zone itself. */
  readonly recordName: string;
  readonly value: string;
  /** Whether the engine reads any of several records there, or one only where it stands alone. */
  readonly many: DnsRule['many'];
  /** One line of a zone file (RFC 1035 §5). */
  readonly zoneLine: string;
}

/** One token, by one method, at the one place where it has to stand. */
export type Placement = MetaPlacement | FilePlacement | DnsPlacement;

/**
 * Where a token must stand and exactly what must stand there.
 * @param profile the engine's rules
 * @param target what the enrolment covers
 * @returns null when the engine does not take this method for this reach
 */
export function placementOf(
  profile: EngineProfile,
  target: Scope,
  method: Method,
  token: string,
): Placement | null {
  if (profile.methods[method]?.reaches.includes(target.reach) !== true) return null;
  const { meta, file, dns } = profile.methods;
  if (method === 'dns') return dns ? dnsPlacement(dns, target, token) : null;
  if (target.reach === 'name') return null;
  if (method === 'meta') return meta ? metaPlacement(meta, target.address, token) : null;
  return file && isBelowItsRoot(file, token) ? filePlacement(file, target.address, token) : null;
}

function metaPlacement(rule: MetaRule, address: WebAddress, token: string): MetaPlacement {
  const content = fill(rule.content, token);
  return {
    method: 'meta',
    token,
    place: addressText(address),
    name: rule.name,
    content,
    tag: `<meta name="${attribute(rule.name)}" content="${attribute(content)}">`,
    redirects: rule.redirects,
    mostRedirects: rule.mostRedirects,
    compare: rule.compare,
    many: rule.many,
    scripting: rule.scripting ?? null,
  };
}

/** Whether a token, wherever it came from, leaves its file where the rule has it: it is a part of a name, and no part of a path. */
function isBelowItsRoot({ path }: FileRule, token: string): boolean {
  return !path.includes('{token}') || !(/[/\\?#%\p{Cc}\s]/u.test(token) || token.includes('..'));
}

function filePlacement(rule: FileRule, address: WebAddress, token: string): FilePlacement {
  const home = addressText(address);
  const root = addressText({ ...address, path: '/' });
  const path = fill(rule.path, token);
  const content = fill(rule.content, token);
  const place = (rule.base === 'folder' ? home : root).slice(0, -1) + path;
  return {
    method: 'file',
    token,
    place,
    home,
    fileName: path.slice(path.lastIndexOf('/') + 1),
    path: new URL(place).pathname,
    content,
    isOwnPath: rule.path.includes('{token}'),
    bytes: new TextEncoder().encode(content).length,
    redirects: rule.redirects,
    mostRedirects: rule.mostRedirects,
    compare: rule.compare,
  };
}

function dnsPlacement(rule: DnsRule, target: Scope, token: string): DnsPlacement {
  const name = target.reach === 'name' ? target.name : target.address.host;
  const place = rule.label === null ? name : `${rule.label}.${name}`;
  const zone = registrableOf(place);
  const value = fill(rule.value, token);
  return {
    method: 'dns',
    token,
    place,
    owner: name,
    zone,
    recordName: place === zone ? '@' : place.slice(0, -(zone.length + 1)),
    value,
    many: rule.many,
    zoneLine: `${place}. 3600 IN TXT ${zoneStrings(value)}`,
    compare: rule.compare,
  };
}

function fill(template: string, token: string): string {
  return template.replaceAll('{token}', token);
}

function attribute(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;');
}

/** A TXT value as quoted character strings of at most 255 bytes each (RFC 1035 §3.3.14, §5.1). */
export function zoneStrings(value: string): string {
  const parts: string[] = [];
  let part = '';
  let size = 0;
  for (const character of value) {
    const bytes = new TextEncoder().encode(character).length;
    if (size + bytes > 255) {
      parts.push(part);
      part = '';
      size = 0;
    }
    part += character;
    size += bytes;
  }
  parts.push(part);
  return parts.map((text) => `"${text.replace(/(["\\])/g, '\\$1')}"`).join(' ');
}
