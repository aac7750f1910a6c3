import { domainToASCII, domainToUnicode } from 'node:url';
import { parse } from 'tldts';

/** A host name in both of its written forms. `ascii` is the form that is compared, stored and fetched. */
export interface HostName {
  /** A-labels, lower case, no trailing dot (RFC 5890). */
  readonly ascii: string;
  /** U-labels, for people. */
  readonly unicode: string;
  /** The name one label below the public suffix: where the zone usually is. */
  readonly registrable: string;
}

export type HostRefusal = 'ip-address' | 'public-suffix' | 'not-a-host';

/** Hosts come alone, and a suffix that a company lets out names under counts as one. */
const BY_NAME = { allowPrivateDomains: true, extractHostname: false };
const LABEL = /^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/;
/**
 * The letters of a label that can be registered (RFC 5892): letters, marks, digits and hyphens of all scripts, and the few signs that
 * have a place among them. Signs that only look like part of a name, such as quotation marks, are none.
 */
const REGISTRABLE = /^(?:[\p{L}\p{M}\p{N}\u00b7\u0375\u05f3\u05f4\u30fb-]|\u200c|\u200d)+$/u;

/**
 * Reads a host name.
 * @param text what stands between scheme and path, without a port
 * @returns the name, or why it cannot be the name of a website
 * Rules: RFC 1123 §2.1 (letters, digits, hyphens; 63 per label, 253 in all), UTS 46 for accents, RFC 5892 for what of them can be registered,
 * the public suffix list for what can be registered.
 */
export function readHost(text: string): HostName | HostRefusal {
  const trimmed = text.trim().replace(/\.$/, '').toLowerCase();
  if (/^\[.*\]$/.test(trimmed) || /^[0-9a-f]*:[0-9a-f:.]*$/.test(trimmed)) return 'ip-address';
  // Numbers of any base are addresses too (URL standard §3.5): their one form shows it.
  const ascii = domainToASCII(trimmed);
  const known = parse(ascii, BY_NAME);
  if (known.isIp === true) return 'ip-address';
  if (ascii.length > 253 || !ascii.split('.').every((label) => LABEL.test(label))) return 'not-a-host';
  const unicode = domainToUnicode(ascii);
  if (!unicode.split('.').every((label) => REGISTRABLE.test(label))) return 'not-a-host';
  if (known.domain === null) return 'public-suffix';
  return { ascii, unicode, registrable: known.domain };
}

/** The registrable domain of a host that is already in ASCII form; the host itself where there is none. */
export function registrableOf(host: string): string {
  return parse(host, BY_NAME).domain ?? host;
}

/** The form of a host for people: `xn--mwenfang-n4a.example` → `möwenfang.example`. */
export function unicodeOf(host: string): string {
  return domainToUnicode(host) || host;
}

/** A text in which every host is in the form for people. */
export function hostsForPeople(text: string): string {
  return text.replace(
    /(?<![\w.-])(?:[a-z0-9-]{1,63}\.){0,20}xn--[a-z0-9-]{1,59}(?:\.[a-z0-9-]{1,63}){0,20}/gu,
    unicodeOf,
  );
}
