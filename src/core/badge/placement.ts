import { addressText } from '../address/web-address.js';
import { registrableOf } from '../address/host.js';
import type { Target } from '../address/reach.js';
import type { Comparison, EngineProfile, Method, RedirectRule } from '../profile/profile.js';

interface Placed {
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
}

export interface FilePlacement extends Placed {
  readonly method: 'file';
  readonly place: string;
  readonly fileName: string;
  /** Where the file goes, from the web root. */
  readonly path: string;
  readonly content: string;
  readonly bytes: number;
  readonly redirects: RedirectRule;
}

export interface DnsPlacement extends Placed {
  readonly method: 'dns';
  /** The owner name, absolute, without the trailing dot. */
  readonly place: string;
  /** The zone as far as the public suffix list tells. */
  readonly zone: string;
  /** The owner name as a DNS panel wants it: relative to the zone, `@` for the zone itself. */
  readonly recordName: string;
  readonly value: string;
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
  target: Target,
  method: Method,
  token: string,
): Placement | null {
  if (profile.methods[method]?.reaches.includes(target.reach) !== true) return null;
  switch (method) {
    case 'meta': {
      const rule = profile.methods.meta;
      if (!rule || target.reach === 'name') return null;
      const content = fill(rule.content, token);
      const tag = `<meta name="${attribute(rule.name)}" content="${attribute(content)}">`;
      return {
        method,
        place: addressText(target.address),
        name: rule.name,
        content,
        tag,
        redirects: rule.redirects,
        compare: rule.compare,
      };
    }
    case 'file': {
      const rule = profile.methods.file;
      if (!rule || target.reach === 'name') return null;
      const path = fill(rule.path, token);
      const content = fill(rule.content, token);
      const place = addressText({ ...target.address, path: '/' }).slice(0, -1) + path;
      const fileName = path.slice(path.lastIndexOf('/') + 1);
      const bytes = new TextEncoder().encode(content).length;
      return {
        method,
        place,
        fileName,
        path,
        content,
        bytes,
        redirects: rule.redirects,
        compare: rule.compare,
      };
    }
    case 'dns': {
      const rule = profile.methods.dns;
      if (!rule) return null;
      const name = target.reach === 'name' ? target.name : target.address.host;
      return dnsPlacement(
        rule.label === null ? name : `${rule.label}.${name}`,
        fill(rule.value, token),
        rule.compare,
      );
    }
  }
}

function dnsPlacement(place: string, value: string, compare: Comparison): DnsPlacement {
  const zone = registrableOf(place);
  const recordName = place === zone ? '@' : place.slice(0, -(zone.length + 1));
  return {
    method: 'dns',
    place,
    zone,
    recordName,
    value,
    zoneLine: `${place}. 3600 IN TXT ${zoneStrings(value)}`,
    compare,
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
