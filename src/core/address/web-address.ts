import { unicodeOf } from './host.js';

export type Scheme = 'http' | 'https';

/** One variant: scheme, host, port and path prefix. Two addresses are the same when their texts are. */
export interface WebAddress {
  readonly scheme: Scheme;
  /** ASCII form. */
  readonly host: string;
  /** Absent for the scheme's own port (RFC 9110 §4.2). */
  readonly port: number | null;
  /** Starts and ends with `/`. */
  readonly path: string;
}

function authority(host: string, port: number | null): string {
  return port === null ? host : `${host}:${String(port)}`;
}

/** `https://www.saltmarsh-ferries.example/` : the form for machines. */
export function addressText(address: WebAddress): string {
  return `${address.scheme}://${authority(address.host, address.port)}${address.path}`;
}

/** The same with accents, for people; the path with its escapes undone where that is safe to show. */
export function addressForPeople(address: WebAddress): string {
  return `${address.scheme}://${authority(unicodeOf(address.host), address.port)}${readablePath(address.path)}`;
}

function readablePath(path: string): string {
  try {
    const plain = decodeURI(path);
    // Spaces, control and direction-changing characters stay escaped: shown plain they would mislead.
    return /[\s\p{C}]/u.test(plain) ? path : plain;
  } catch {
    return path;
  }
}

/** Reads an address that we wrote ourselves with `addressText`. Throws TypeError on anything else. */
export function parseAddress(text: string): WebAddress {
  const url = new URL(text);
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    throw new TypeError(`not a web address: ${text}`);
  return {
    scheme: url.protocol === 'https:' ? 'https' : 'http',
    host: url.hostname,
    port: url.port === '' ? null : Number(url.port),
    path: url.pathname.endsWith('/') ? url.pathname : folderOf(url.pathname),
  };
}

/** The folder that holds a path: `/clocks/index.html` → `/clocks/`. */
export function folderOf(path: string): string {
  return path.slice(0, path.lastIndexOf('/') + 1);
}
