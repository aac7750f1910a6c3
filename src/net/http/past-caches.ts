import { randomBytes } from 'node:crypto';

/**
 * A request that no cache on the way has an answer for: it says so (RFC 9111 §5.2.1.4), and its query is new, for
 * caches that do not listen.
 */
export function pastCaches(address: string): { url: string; headers: Record<string, string> } {
  const url = new URL(address);
  url.searchParams.set('yardbadge', randomBytes(6).toString('hex'));
  return { url: url.href, headers: { 'cache-control': 'no-cache', pragma: 'no-cache' } };
}
