import { Resolver } from 'node:dns/promises';
import { get as getPlain, type IncomingMessage } from 'node:http';
import { get as getSecure } from 'node:https';
import { gunzipSync } from 'node:zlib';

/** Where an engine of the rehearsal finds the rehearsal's websites and name server. */
export interface Grounds {
  readonly http: number;
  readonly https: number;
  readonly dns: number;
  readonly ca: string;
  /** Milliseconds for which an engine waits for an answer. */
  readonly patienceMs?: number;
  /** Where connections to an address go, if not to the websites; for hosts that stand elsewhere. */
  readonly elsewhere?: Readonly<Record<string, number>>;
}

export interface Fetched {
  readonly status: number;
  readonly url: string;
  readonly text: string;
  readonly type: string;
}

const MOST_BYTES = 8 * 1024 * 1024;

interface Once {
  readonly status: number;
  readonly location: string | undefined;
  readonly text: string;
  readonly type: string;
}

async function once(grounds: Grounds, url: URL): Promise<Once> {
  const addresses = await resolverOf(grounds).resolve4(url.hostname);
  const elsewhere = grounds.elsewhere?.[addresses[0] ?? ''];
  return new Promise((resolve, reject) => {
    const secure = url.protocol === 'https:';
    const options = {
      host: '127.0.0.1',
      path: url.pathname + url.search,
      headers: { host: url.host, 'user-agent': 'RehearsalEngine/1.0' },
      timeout: grounds.patienceMs ?? 5000,
    };
    const take = (response: IncomingMessage) => {
      const pieces: Buffer[] = [];
      let size = 0;
      response.on('data', (piece: Buffer) => {
        if (size < MOST_BYTES) pieces.push(piece);
        size += piece.length;
      });
      response.on('end', () => {
        resolve({
          status: response.statusCode ?? 0,
          location: response.headers.location,
          text: unpacked(Buffer.concat(pieces), response.headers['content-encoding']),
          type: response.headers['content-type'] ?? '',
        });
      });
      response.on('error', reject);
    };
    const request = secure
      ? getSecure(
          { ...options, port: elsewhere ?? grounds.https, servername: url.hostname, ca: grounds.ca },
          take,
        )
      : getPlain({ ...options, port: elsewhere ?? grounds.http }, take);
    request.on('timeout', () => {
      request.destroy(new Error('timed out'));
    });
    request.on('error', reject);
  });
}

function unpacked(body: Buffer, encoding: string | undefined): string {
  return (encoding === 'gzip' ? gunzipSync(body) : body).toString('utf8');
}

function resolverOf(grounds: Grounds): Resolver {
  const resolver = new Resolver({ timeout: grounds.patienceMs ?? 2000, tries: 2 });
  resolver.setServers([`127.0.0.1:${String(grounds.dns)}`]);
  return resolver;
}

/** Fetches, and follows redirects as far as the engine does. */
export async function fetchFrom(
  grounds: Grounds,
  start: string,
  mayFollow: (from: URL, to: URL) => boolean,
  atMost = 5,
): Promise<Fetched | null> {
  let url = new URL(start);
  for (let hops = 0; hops <= atMost; hops += 1) {
    const answer = await once(grounds, url).catch(() => null);
    if (!answer) return null;
    if (answer.status < 300 || answer.status >= 400 || answer.location === undefined)
      return { status: answer.status, url: url.href, text: answer.text, type: answer.type };
    const next = new URL(answer.location, url);
    if (!mayFollow(new URL(start), next)) return null;
    url = next;
  }
  return null;
}

export async function textRecords(grounds: Grounds, name: string): Promise<string[]> {
  const found = await resolverOf(grounds)
    .resolveTxt(name)
    .catch(() => []);
  return found.map((strings) => strings.join(''));
}
