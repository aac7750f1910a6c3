import { request, type IncomingMessage } from 'node:http';
import type { TLSSocket } from 'node:tls';
import { posix } from 'node:path';
import { authorization, isStale, loginAsked, schemesIn, type Login } from './http-login.js';
import { TargetFault, MOST_BYTES, requireBelow, temporaryNames, type FileTarget } from './file-target.js';

/** How a web root is reached over WebDAV (RFC 4918). */
export interface WebDavAt {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  /** The path that is the web root, from the server's own. */
  readonly root: string;
  readonly secret: string;
}

const PATIENCE_MS = 20_000;
/** What is read of an answer of which only the status matters. */
const MOST_SAID = 65_536;

const PRECONDITION_FAILED = 412;

interface More {
  readonly headers?: Record<string, string>;
  readonly body?: Buffer;
  readonly most?: number;
}

interface Answer {
  readonly status: number;
  readonly body: Buffer;
  /** What stands there, by the server's word for this state of it (RFC 9110 §8.8.3), which may be a weak one; null where it says none. */
  readonly tag: string | null;
  /** How it wants to be signed in to. */
  readonly challenges: readonly string[];
}

/**
 * A web root over WebDAV, always under TLS. A login is sent only once the server has asked for one: by Digest where it knows that
 * (RFC 7616), else by Basic (RFC 7617). What somebody else changes in between is not written over (RFC 9110 §13.1).
 * @param secured makes a new connection, guarded, with the certificate held to what was pinned
 * @throws CarryFault
 */
export async function openWebDav(at: WebDavAt, secured: () => Promise<TLSSocket>): Promise<FileTarget> {
  const { host, port, user, root, secret } = at;
  const origin = `https://${host}${port === 443 ? '' : `:${String(port)}`}`;
  const placeOf = (path: string) => posix.join('/', root, requireBelow(path));
  const written = (place: string) => place.split('/').map(encodeURIComponent).join('/');
  const asking = new Set<TLSSocket>();
  const signed = (method: string, target: string): { authorization?: string } => {
    if (login === null) return {};
    count += 1;
    return { authorization: authorization(login, { user, secret, method, target, count }) };
  };
  let login: Login | null = null;
  let count = 0;
  const ask = async (method: string, place: string, more: More = {}): Promise<Answer> => {
    const first = await askOnce(method, place, more);
    if (first.status !== 401) return first;
    const asked = loginAsked(first.challenges);
    // A login that was sent and is refused all the same is a wrong one, unless only its nonce is too old.
    if (asked === null || (login !== null && !isStale(first.challenges))) return first;
    login = asked;
    count = 0;
    return askOnce(method, place, more);
  };
  const askOnce = async (method: string, place: string, more: More): Promise<Answer> => {
    const socket = await secured();
    asking.add(socket);
    socket.once('close', () => asking.delete(socket));
    return new Promise((done, fail) => {
      const unreached = (says: string) => {
        socket.destroy();
        fail(new TargetFault('unreached', `${host} did not answer ${method}: ${says}`));
      };
      const sent = request({
        createConnection: () => socket,
        method,
        path: written(place),
        headers: {
          host: new URL(origin).host,
          ...signed(method, written(place)),
          connection: 'close',
          'accept-encoding': 'identity',
          'content-length': String(more.body?.length ?? 0),
          ...more.headers,
        },
      });
      sent.setTimeout(PATIENCE_MS, () => {
        unreached('nothing came in time.');
      });
      sent.on('error', (error) => {
        unreached(error.message);
      });
      sent.on('response', (answer) => {
        bodyOf(answer, more.most ?? MOST_SAID)
          .then((body) => {
            const { etag = null, 'www-authenticate': asked } = answer.headers;
            done({
              status: answer.statusCode ?? 0,
              body,
              tag: etag,
              challenges: asked === undefined ? [] : [asked].flat(),
            });
          })
          .catch((error: unknown) => {
            unreached(error instanceof Error ? error.message : String(error));
          })
          .finally(() => socket.destroy());
      });
      sent.end(more.body);
    });
  };

  const { status, challenges } = await ask('OPTIONS', posix.join('/', root, '/'));
  if (status === 401 && loginAsked(challenges) === null)
    throw new TargetFault(
      'denied',
      `${host} wants to be signed in to by ${schemesIn(challenges).join(', ') || 'nothing that it names'}; we know Basic and Digest (SHA-256 or MD5).`,
    );
  if (status === 401) throw new TargetFault('denied', `${host} does not let “${user}” in with what we have.`);
  /** The state of what was read last at each place, and whether anything was there. */
  const known = new Map<string, string | 'nothing'>();
  /**
   * By which a file is moved to its place only if there is what was read there last (RFC 4918 §10.4, §10.6). Servers that do not heed it are
   * asked just before.
   */
  const only = async (place: string, destination: string): Promise<Record<string, string>> => {
    const state = known.get(place);
    if (state === undefined) return { overwrite: 'T' };
    if (state === 'nothing') return { overwrite: 'F' };
    const now = await ask('HEAD', place);
    const isOther = now.status === 200 && now.tag !== null && opaque(now.tag) !== opaque(state);
    if (isOther) return { overwrite: 'F' };
    return { overwrite: 'T', ...(isWeak(state) ? {} : { if: `<${destination}> ([${state}])` }) };
  };
  /** Writes beside the place, under the first name that the server takes. @returns the name, and the answer */
  const putBeside = async (place: string, nonce: string, body: Buffer): Promise<[string, Answer]> => {
    const [hidden, plain] = temporaryNames(place, nonce);
    const put = async (part: string) =>
      ask('PUT', part, { body }).catch(async (error: unknown) => {
        await ask('DELETE', part).catch(() => undefined);
        throw error;
      });
    const first = await put(hidden);
    if (first.status < 400 || first.status === 401 || first.status >= 500) return [hidden, first];
    const second = await put(plain);
    return second.status < 300 ? [plain, second] : [hidden, first];
  };
  return {
    async read(path) {
      const place = placeOf(path);
      const { status, body, tag } = await ask('GET', place, { most: MOST_BYTES });
      known.delete(place);
      if (status === 200 && tag !== null) known.set(place, tag);
      if (status === 404 || status === 410) {
        known.set(place, 'nothing');
        return null;
      }
      if (status === 200) return body;
      throw faultOf(status, path, `read (status ${String(status)})`);
    },
    async write(path, bytes, nonce) {
      const place = placeOf(path);
      await folders(ask, posix.dirname(place), posix.join('/', root));
      const destination = origin + written(place);
      const [part, put] = await putBeside(place, nonce, bytes);
      const moved =
        put.status < 300
          ? await ask('MOVE', part, { headers: { destination, ...(await only(place, destination)) } })
          : put;
      known.delete(place);
      if (moved.status < 300) return;
      await ask('DELETE', part).catch(() => undefined);
      if (moved.status === PRECONDITION_FAILED)
        throw new TargetFault(
          'refused',
          `“${path}” was changed by somebody else since it was read, and was left as it is.`,
        );
      throw faultOf(moved.status, path, `written (status ${String(moved.status)})`);
    },
    async settle(path, nonce) {
      for (const part of temporaryNames(placeOf(path), nonce)) await ask('DELETE', part);
    },
    async remove(path) {
      const { status } = await ask('DELETE', placeOf(path));
      if (status >= 300 && status !== 404 && status !== 410)
        throw faultOf(status, path, `taken away (status ${String(status)})`);
    },
    close: () => {
      for (const socket of asking) socket.destroy();
      return Promise.resolve();
    },
  };
}

/** A server says only weakly what was changed within the second; the same word without that is for the same state (RFC 9110 §8.8.3.2). */
function isWeak(tag: string): boolean {
  return tag.startsWith('W/');
}

function opaque(tag: string): string {
  return tag.replace(/^W\//u, '');
}

/** Makes the folders below the root that are not there yet (RFC 4918 §9.3: 405 where one is). */
async function folders(
  ask: (method: string, place: string) => Promise<Answer>,
  folder: string,
  root: string,
): Promise<void> {
  const below = posix.relative(root, folder);
  let at = root;
  for (const part of below === '' ? [] : below.split('/')) {
    at = posix.join(at, part);
    await ask('MKCOL', `${at}/`);
  }
}

async function bodyOf(answer: IncomingMessage, most: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  let length = 0;
  for await (const piece of answer as AsyncIterable<Buffer>) {
    length += piece.length;
    if (length > most) {
      if (most === MOST_SAID) break;
      throw new Error('it is larger than anything that we publish.');
    }
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

function faultOf(status: number, path: string, what: string): TargetFault {
  if (status === 401 || status === 403 || status === 405)
    return new TargetFault('denied', `“${path}” may not be ${what} under this login.`);
  if (status === 507 || status >= 500)
    return new TargetFault('full', `“${path}” could not be ${what}. The server’s disk may be full.`);
  return new TargetFault('refused', `“${path}” could not be ${what}.`);
}
