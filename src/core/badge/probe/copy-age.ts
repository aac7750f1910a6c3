import type { Hop } from './evidence.js';

/** What tells that an answer may come out of a cache on the way, and how long that keeps it (RFC 9111). */
export interface CopyAge {
  /** Seconds since it was made; null where the cache does not say. */
  readonly age: number | null;
  /** Seconds until it has to be fetched anew; null where nobody says. */
  readonly left: number | null;
}

/** Whether an answer has passed a cache: it has an age, a proxy's signature, or says that it was a hit. */
export function mayBeCopy(hop: Hop): boolean {
  const { age, via } = hop.headers;
  return age !== undefined || via !== undefined || /\bhit\b/iu.test(hop.headers['x-cache'] ?? '');
}

/** RFC 9111 §4.2: the freshness lifetime is `s-maxage`, else `max-age`, else `Expires` less `Date`; the age is taken off. */
export function copyAge({ headers }: Hop): CopyAge {
  const age = /^\d+$/u.test(headers['age'] ?? '') ? Number(headers['age']) : null;
  const control = headers['cache-control'] ?? '';
  const seconds = (name: string) => {
    const found = new RegExp(`(?:^|[\\s,])${name}\\s*=\\s*"?(\\d+)`, 'iu').exec(control)?.[1];
    return found === undefined ? null : Number(found);
  };
  const lifetime = seconds('s-maxage') ?? seconds('max-age') ?? untilExpiry(headers);
  return { age, left: lifetime === null ? null : Math.max(0, lifetime - (age ?? 0)) };
}

function untilExpiry(headers: Hop['headers']): number | null {
  const expires = Date.parse(headers['expires'] ?? '');
  const made = Date.parse(headers['date'] ?? '');
  return Number.isNaN(expires) || Number.isNaN(made)
    ? null
    : Math.max(0, Math.round((expires - made) / 1000));
}
