import { request, type IncomingMessage } from 'node:http';
import type { TLSSocket } from 'node:tls';
import { posix } from 'node:path';
import { CarryFault, MOST_BYTES, requireBelow, temporaryName, type FileWay } from './way.js';

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

interface Answer {
  readonly status: number;
  readonly body: Buffer;
}

/**
 * A web root over WebDAV, always under TLS, since the login is sent with each request (RFC 7617).
 * @param secured makes a new connection, guarded, with the certificate held to what was pinned
 * @throws CarryFault
 */
export async function openWebDav(at: WebDavAt, secured: () => Promise<TLSSocket>): Promise<FileWay> {
  const { host, port, user, root, secret } = at;
  const origin = `https://${host}${port === 443 ? '' : `:${String(port)}`}`;
  const placeOf = (path: string) => posix.join('/', root, requireBelow(path));
  const written = (place: string) => place.split('/').map(encodeURIComponent).join('/');
  const asking = new Set<TLSSocket>();
  const ask = async (
    method: string,
    place: string,
    more: { headers?: Record<string, string>; body?: Buffer; most?: number } = {},
  ): Promise<Answer> => {
    const socket = await secured();
    asking.add(socket);
    socket.once('close', () => asking.delete(socket));
    return new Promise((done, fail) => {
      const unreached = (says: string) => {
        socket.destroy();
        fail(new CarryFault('unreached', `${host} did not answer ${method}: ${says}`));
      };
      const sent = request({
        createConnection: () => socket,
        method,
        path: written(place),
        headers: {
          host: new URL(origin).host,
          authorization: `Basic ${Buffer.from(`${user}:${secret}`).toString('base64')}`,
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
            done({ status: answer.statusCode ?? 0, body });
          })
          .catch((error: unknown) => {
            unreached(error instanceof Error ? error.message : String(error));
          })
          .finally(() => socket.destroy());
      });
      sent.end(more.body);
    });
  };

  const { status } = await ask('OPTIONS', posix.join('/', root, '/'));
  if (status === 401) throw new CarryFault('denied', `${host} does not let “${user}” in with what we have.`);
  return {
    async read(path) {
      const { status, body } = await ask('GET', placeOf(path), { most: MOST_BYTES });
      if (status === 404 || status === 410) return null;
      if (status === 200) return body;
      throw faultOf(status, path, `read (status ${String(status)})`);
    },
    async write(path, bytes, nonce) {
      const place = placeOf(path);
      const part = temporaryName(place, nonce);
      await folders(ask, posix.dirname(place), posix.join('/', root));
      const put = await ask('PUT', part, { body: bytes }).catch(async (error: unknown) => {
        await ask('DELETE', part).catch(() => undefined);
        throw error;
      });
      const moved =
        put.status < 300
          ? await ask('MOVE', part, {
              headers: { destination: origin + written(place), overwrite: 'T' },
            })
          : put;
      if (moved.status < 300) return;
      await ask('DELETE', part).catch(() => undefined);
      throw faultOf(moved.status, path, `written (status ${String(moved.status)})`);
    },
    async settle(path, nonce) {
      await ask('DELETE', temporaryName(placeOf(path), nonce));
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
      throw new Error('it is larger than anything that we carry.');
    }
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

function faultOf(status: number, path: string, what: string): CarryFault {
  if (status === 401 || status === 403 || status === 405)
    return new CarryFault('denied', `“${path}” may not be ${what} under this login.`);
  if (status === 507 || status >= 500)
    return new CarryFault('full', `“${path}” could not be ${what}. The server’s disk may be full.`);
  return new CarryFault('refused', `“${path}” could not be ${what}.`);
}
