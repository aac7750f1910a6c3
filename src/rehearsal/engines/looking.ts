import { Resolver } from 'node:dns/promises';
import { get as getPlain, type IncomingMessage } from 'node:http';
import { get as getSecure } from 'node:https';

/** Where an engine of the rehearsal finds the rehearsal's websites and name server. */
export interface Grounds {
  readonly http: number;
  readonly https: number;
  readonly dns: number;
  readonly ca: string;
}

export interface Fetched {
  readonly status: number;
  readonly url: string;
  readonly text: string;
}

const MOST_BYTES = 8 * 1024 * 1024;

function once(
  grounds: Grounds,
  url: URL,
): Promise<{ status: number; location: string | undefined; text: string }> {
  return new Promise((resolve, reject) => {
    const secure = url.protocol === 'https:';
    const options = {
      host: '127.0.0.1',
      path: url.pathname + url.search,
      headers: { host: url.host, 'user-agent': 'RehearsalEngine/1.0' },
      timeout: 5000,
    };
    const take = (response: IncomingMessage) => {
      let text = '';
      response.setEncoding('utf8');
      response.on('data', (piece: string) => {
        if (text.length < MOST_BYTES) text += piece;
      });
      response.on('end', () => {
        resolve({ status: response.statusCode ?? 0, location: response.headers.location, text });
      });
      response.on('error', reject);
    };
    const request = secure
      ? getSecure({ ...options, port: grounds.https, servername: url.hostname, ca: grounds.ca }, take)
      : getPlain({ ...options, port: grounds.http }, take);
    request.on('timeout', () => {
      request.destroy(new Error('timed out'));
    });
    request.on('error', reject);
  });
}

/** Fetches with at most five redirects, as long as the engine follows them. */
export async function fetchFrom(
  grounds: Grounds,
  start: string,
  mayFollow: (from: URL, to: URL) => boolean,
): Promise<Fetched | null> {
  let url = new URL(start);
  for (let hops = 0; hops < 6; hops += 1) {
    const answer = await once(grounds, url).catch(() => null);
    if (!answer) return null;
    if (answer.status < 300 || answer.status >= 400 || answer.location === undefined)
      return { status: answer.status, url: url.href, text: answer.text };
    const next = new URL(answer.location, url);
    if (!mayFollow(new URL(start), next)) return null;
    url = next;
  }
  return null;
}

export async function textRecords(grounds: Grounds, name: string): Promise<string[]> {
  const resolver = new Resolver({ timeout: 2000, tries: 2 });
  resolver.setServers([`127.0.0.1:${String(grounds.dns)}`]);
  const found = await resolver.resolveTxt(name).catch(() => []);
  return found.map((strings) => strings.join(''));
}
