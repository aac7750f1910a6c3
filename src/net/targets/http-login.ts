import { createHash, randomBytes } from 'node:crypto';

/** A login over HTTP, as the server asks for it. */
export type Login =
  | { readonly scheme: 'basic' }
  | {
      readonly scheme: 'digest';
      readonly realm: string;
      readonly nonce: string;
      readonly opaque: string | null;
      readonly algorithm: 'MD5' | 'SHA-256';
      /** Whether it wants the form with a count (RFC 7616 §3.4); else that of before. */
      readonly hasCount: boolean;
    };

const HASHES = { MD5: 'md5', 'SHA-256': 'sha256' } as const;

/**
 * How a server wants to be signed in to (RFC 9110 §11.6.1): by Digest where it knows it (RFC 7616), SHA-256 before MD5, else by Basic
 * (RFC 7617). @param challenges the values of its `WWW-Authenticate` headers
 * @returns null where it asks for neither
 */
export function loginAsked(challenges: readonly string[]): Login | null {
  const all = challenges.flatMap(challengesIn);
  const digests = all.flatMap(({ scheme, values }): Login[] => {
    const algorithm = values.get('algorithm')?.toUpperCase() ?? 'MD5';
    const [realm, nonce] = [values.get('realm'), values.get('nonce')];
    if (scheme !== 'digest' || realm === undefined || nonce === undefined) return [];
    if (algorithm !== 'MD5' && algorithm !== 'SHA-256') return [];
    const qop = values.get('qop');
    const hasCount = qop !== undefined && qop.split(/[\s,]+/u).includes('auth');
    if (qop !== undefined && !hasCount) return [];
    return [{ scheme, realm, nonce, opaque: values.get('opaque') ?? null, algorithm, hasCount }];
  });
  const best = digests.find((one) => one.scheme === 'digest' && one.algorithm === 'SHA-256') ?? digests[0];
  if (best) return best;
  return all.some(({ scheme }) => scheme === 'basic') ? { scheme: 'basic' } : null;
}

/** Whether a server says that only the nonce is too old: the login itself is not refused by that (RFC 7616 §3.3). */
export function isStale(challenges: readonly string[]): boolean {
  return challenges.flatMap(challengesIn).some(({ values }) => values.get('stale')?.toLowerCase() === 'true');
}

/** The schemes that are asked for, for people. */
export function schemesIn(challenges: readonly string[]): string[] {
  return challenges.flatMap(challengesIn).map(({ scheme }) => scheme);
}

interface Challenge {
  /** In lower case. */
  readonly scheme: string;
  readonly values: ReadonlyMap<string, string>;
}

const MOST_SAID = 4_000;
/** A scheme that begins a challenge, or a value with its name. */
const PART = /([A-Za-z][\w-]*)(?:\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^\s,"]*))|(?=\s|,|$))/gu;

function challengesIn(header: string): Challenge[] {
  const found: { scheme: string; values: Map<string, string> }[] = [];
  for (const [, name = '', quoted, plain] of header.slice(0, MOST_SAID).matchAll(PART)) {
    const value = quoted?.replace(/\\(.)/gu, '$1') ?? plain;
    if (value === undefined) found.push({ scheme: name.toLowerCase(), values: new Map() });
    else found.at(-1)?.values.set(name.toLowerCase(), value);
  }
  return found;
}

/** What one request is signed in by. */
export interface Signing {
  readonly user: string;
  readonly secret: string;
  readonly method: string;
  /** As it stands in the request line. */
  readonly target: string;
  /** How many requests there were with this nonce, this one included. */
  readonly count: number;
}

/** The `Authorization` of one request. @param client a nonce of our own, for tests */
export function authorization(
  login: Login,
  signing: Signing,
  client = randomBytes(16).toString('hex'),
): string {
  const { user, secret, method, target, count } = signing;
  if (login.scheme === 'basic') return `Basic ${Buffer.from(`${user}:${secret}`).toString('base64')}`;
  const { realm, nonce, opaque, algorithm, hasCount } = login;
  const hash = (text: string) => createHash(HASHES[algorithm]).update(text).digest('hex');
  const nc = count.toString(16).padStart(8, '0');
  const own = hash(`${user}:${realm}:${secret}`);
  const asked = hash(`${method}:${target}`);
  const response = hash([own, nonce, ...(hasCount ? [nc, client, 'auth'] : []), asked].join(':'));
  const quoted = (text: string) => `"${text.replace(/["\\]/gu, '\\$&')}"`;
  return [
    `Digest username=${quoted(user)}`,
    `realm=${quoted(realm)}`,
    `nonce=${quoted(nonce)}`,
    `uri=${quoted(target)}`,
    `algorithm=${algorithm}`,
    `response="${response}"`,
    ...(opaque === null ? [] : [`opaque=${quoted(opaque)}`]),
    ...(hasCount ? ['qop=auth', `nc=${nc}`, `cnonce="${client}"`] : []),
  ].join(', ');
}
