import { readHost, type HostName } from './host.js';
import { folderOf, type Scheme, type WebAddress } from './web-address.js';

export type PasteRefusal =
  | 'empty'
  | 'mail-address'
  | 'scheme'
  | 'ip-address'
  | 'public-suffix'
  | 'port'
  | 'not-a-host'
  | 'path'
  | 'password';

/** What was read from what somebody pasted. */
export type Paste =
  | {
      readonly kind: 'address';
      readonly address: WebAddress;
      readonly host: HostName;
      /** False when the scheme was not written and `https` was taken: worth checking at the site. */
      readonly schemeWritten: boolean;
      /** What was changed on the way, in words. */
      readonly notes: readonly string[];
      /** Whether it names one page by what follows a `?`, and not at the root: hardly what is meant by a website. */
      readonly isPage: boolean;
    }
  | { readonly kind: 'refused'; readonly why: PasteRefusal; readonly says: string };

const EXPECTED =
  'Expected a web address such as saltmarsh-ferries.example or https://www.saltmarsh-ferries.example/.';
const INVISIBLE = /[\u200b-\u200f\u202a-\u202e\u2060-\u2064\u00ad\ufeff]/g;
const PAGE_FILE = /\/[^/]*\.[a-z0-9]{2,5}$/i;

/**
 * Reads a pasted address into the one form that the product works with.
 * @param text anything: with or without scheme, `www.`, port, path, capitals, accents, wrapped in quotes or brackets
 * @returns the address and what was changed, or a refusal that says what was expected. Never throws.
 * Parsing follows the URL standard; the host rules are those of `readHost`.
 */
export function readPaste(text: string): Paste {
  const bare = unwrap(text);
  if (bare === '') return refuse('empty', 'Nothing was given.');
  if (/^mailto:/i.test(bare) || /^[^/?#:@\s]+@[^/?#\s]+$/.test(bare)) {
    return refuse('mail-address', `“${shown(bare)}” is a mail address.`);
  }
  const split = splitScheme(bare);
  if (split === null) {
    const scheme = bare.slice(0, bare.indexOf(':'));
    return refuse(
      'scheme',
      `“${shown(scheme)}://” is not how websites are reached; only http:// and https:// are.`,
    );
  }
  return readRest(split.rest, split.scheme);
}

function readRest(rest: string, scheme: Scheme | null): Paste {
  const notes: string[] = [];
  const end = rest.search(/[/?#\\]/);
  let authority = end === -1 ? rest : rest.slice(0, end);
  const tail = end === -1 ? '' : rest.slice(end).replace(/\\/g, '/');
  const at = authority.lastIndexOf('@');
  if (at !== -1) {
    // A password is nothing that anybody takes on with a website, nor to be kept anywhere.
    if (authority.slice(0, at).includes(':'))
      return refuse('password', 'There is a password in it: paste the address without it.');
    authority = authority.slice(at + 1);
    notes.push('A name before the host was left off.');
  }
  // What stands in brackets has colons of its own (RFC 3986 §3.2.2).
  const [, hostText = '', digits = ''] = /^(\[[^\]]*\]|.*?)(?::(\d*))?$/su.exec(authority) ?? [];
  const host = readHost(hostText);
  if (typeof host === 'string') return refuseHost(host, hostText);
  const number = digits === '' ? null : Number(digits);
  if (number !== null && (number < 1 || number > 65535)) {
    return refuse('port', `Port ${String(number)} does not exist; ports go from 1 to 65535.`);
  }
  if (/[^?#]*\s/u.test(tail.replace(/[?#].*$/su, '')))
    return refuse('path', `There is a space in the path “${shown(tail)}”.`);
  const path = readPath(tail, notes);
  if (path === null) return refuse('path', `The path “${shown(tail)}” cannot be read.`);
  const settled: Scheme = scheme ?? (number === 80 ? 'http' : 'https');
  return {
    kind: 'address',
    host,
    schemeWritten: scheme !== null,
    notes,
    isPage: tail.includes('?') && path !== '/',
    address: { scheme: settled, host: host.ascii, port: isOwnPort(settled, number) ? null : number, path },
  };
}

function readPath(tail: string, notes: string[]): string | null {
  if (/[?#]/.test(tail))
    notes.push('What follows ? or # was left off: it does not belong to a property’s address.');
  let path: string;
  try {
    // Joined as text: given apart, a path that begins with two slashes would be taken for a host.
    path = new URL(`https://host.invalid${tail}`).pathname;
  } catch {
    return null;
  }
  if (path.length > 1024) return null;
  if (path.endsWith('/')) return path;
  if (PAGE_FILE.test(path)) {
    const folder = folderOf(path);
    notes.push(`The page ${path.slice(folder.length)} was left off: the property is its folder ${folder}.`);
    return folder;
  }
  return `${path}/`;
}

function refuseHost(why: 'ip-address' | 'public-suffix' | 'not-a-host', text: string): Paste {
  const name = `“${shown(text)}”`;
  switch (why) {
    case 'ip-address':
      return refuse(why, `${name} is an IP address; engines register websites by name.`);
    case 'public-suffix':
      return refuse(why, `${name} is a suffix under which names are registered, not a name of its own.`);
    case 'not-a-host':
      return refuse(why, `${name} is not a host name (letters, digits and hyphens, parted by dots).`);
  }
}

function refuse(why: PasteRefusal, says: string): Paste {
  return { kind: 'refused', why, says: `${says} ${EXPECTED}` };
}

/** Quotation marks of every script (Unicode's Pi and Pf, and those that it counts elsewhere), brackets, and what mail and lists put before a line. */
const BEFORE =
  /^(?:[<>("'`´\p{Pi}\p{Pf}\u201a\u201e\u301d-\u301f\uff02\u300c-\u300f\u3008-\u300b•‣·*–—|]|[-+]\s|URL:\s*|\s)+/iu;
const BEHIND =
  /[<>)"'`´\p{Pi}\p{Pf}\u201a\u201e\u301d-\u301f\uff02\u300c-\u300f\u3008-\u300b,;:!?…|*][<>)"'`´\p{Pi}\p{Pf}\u201a\u201e\u301d-\u301f\uff02\u300c-\u300f\u3008-\u300b,;:!?….|*\s]*$/u;

/** Takes off what mail programs, chat and spreadsheets put around an address. */
function unwrap(text: string): string {
  let bare = text.replace(INVISIBLE, '').trim();
  for (;;) {
    const inner = bare
      .replace(BEFORE, '')
      .replace(BEHIND, '')
      .replace(/\.{2,}$/u, '')
      .trim();
    if (inner === bare) return bare;
    bare = inner;
  }
}

function splitScheme(text: string): { scheme: Scheme | null; rest: string } | null {
  const web = /^(https?):[/\\]{0,2}/i.exec(text);
  if (web?.[1])
    return { scheme: web[1].toLowerCase() === 'https' ? 'https' : 'http', rest: text.slice(web[0].length) };
  if (text.startsWith('//')) return { scheme: null, rest: text.slice(2) };
  // `host:8080` has a colon too; only letters before it and no digits after it make it a scheme.
  if (/^[a-z][a-z0-9+.-]*:\/\//i.test(text) || /^[a-z][a-z0-9+-]*:(?!\d)/i.test(text)) return null;
  return { scheme: null, rest: text };
}

function isOwnPort(scheme: Scheme, port: number | null): boolean {
  return port === null || port === (scheme === 'https' ? 443 : 80);
}

function shown(text: string): string {
  const plain = text.replace(/\p{C}/gu, '');
  return plain.length > 60 ? `${plain.slice(0, 60)}…` : plain;
}
