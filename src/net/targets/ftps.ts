import type { Socket } from 'node:net';
import { posix } from 'node:path';
import type { TLSSocket } from 'node:tls';
import { Readable, Writable } from 'node:stream';
import { Client, FTPError, type FileInfo } from 'basic-ftp';
import { exchange, settle, writtenBeside, type Names } from './exchange.js';
import type { Secured } from './secured.js';
import { TargetFault, MOST_BYTES, requireBelow, requireReadable, type FileTarget } from './file-target.js';

/** How a web root is reached over FTP under TLS (RFC 4217). */
export interface FtpsAt {
  readonly host: string;
  readonly user: string;
  /** The folder that is the web root, absolute or from the login's own. */
  readonly root: string;
  readonly secret: string;
}

const PATIENCE_MS = 20_000;
/** For the reply to an order whose data connection has ended already. */
const REPLY_MS = 1_000;
/** A listing of one folder: what is asked of it is whether a name is in it. */
const MOST_LISTED = 4_000_000;
const MODE = '644';
const FOLDER_MODE = '755';

/** Replies of RFC 959 §4.2. */
const NOT_SIGNED_IN = 530;
/** No room; and an error of the server's own, which is what it says where its disk is full. */
const NO_ROOM = new Set([451, 452, 552]);
const NOT_DONE = 550;
const NOT_NOW = 450;

/**
 * Signs in over a connection that is made already, so that the guard has had its say. Nothing is said in the clear but that TLS is
 * wanted; data goes to the same host alone, and only to who shows the same certificate.
 * @param secure puts TLS over the connection, and holds the certificate to what was pinned
 * @throws CarryFault
 */
export async function openFtps(
  socket: Socket,
  at: FtpsAt,
  secure: (socket: Socket) => Promise<Secured>,
): Promise<FileTarget> {
  const client = new Client(PATIENCE_MS, { allowSeparateTransferHost: false, maxListingBytes: MOST_LISTED });
  const { ftp } = client;
  try {
    ftp.socket = socket;
    await greeted(client);
    await startedTls(client);
    const { socket: over, certificate } = await secure(socket);
    ftp.socket = over;
    ftp.tlsOptions = { host: at.host, minVersion: 'TLSv1.2', rejectUnauthorized: false };
    hearReplies(client);
    holdDataTo(client, certificate.fingerprint256);
    await client.login(at.user, at.secret);
    await client.send('PBSZ 0');
    await client.send('PROT P');
    await client.send('TYPE I');
    await client.sendIgnoringError('OPTS UTF8 ON');
  } catch (error) {
    client.close();
    socket.destroy();
    if (error instanceof FTPError && error.code === NOT_SIGNED_IN)
      throw new TargetFault('denied', `The server does not let “${at.user}” in with what we have.`);
    if (error instanceof FTPError)
      throw new TargetFault('refused', `The server speaks no FTP under TLS with us: ${saysOf(error)}`);
    throw error instanceof TargetFault
      ? error
      : new TargetFault('unreached', `The server could not be spoken to: ${saysOf(error)}`);
  }
  return fileWay(client, at.root);
}

/**
 * A server that refuses a file closes the data connection, which may be seen before the reply that says why: the reply is waited for.
 * Without it the connection ends, as it does after any other fault.
 */
function hearReplies({ ftp }: Client): void {
  const close = ftp.closeWithError.bind(ftp);
  ftp.closeWithError = (error) => {
    const { dataSocket } = ftp;
    if (!error.message.includes('(data socket)')) close(error);
    else
      setTimeout(() => {
        if (ftp.dataSocket === dataSocket) close(error);
      }, REPLY_MS);
  };
}

/** Lets nothing come or go over a data connection but to who showed the certificate before, or goes on with that very session. */
function holdDataTo(client: Client, fingerprint: string): void {
  const prepare = client.prepareTransfer;
  client.prepareTransfer = async (ftp) => {
    const prepared = await prepare(ftp);
    const data = ftp.dataSocket as TLSSocket;
    data.once('secureConnect', () => {
      if (!data.isSessionReused() && data.getPeerCertificate().fingerprint256 !== fingerprint)
        data.destroy(new Error('another certificate was shown for the data than before'));
    });
    return prepared;
  };
}

/** Has the server begin with TLS (RFC 4217 §4). One that does not is told from one that does not know the login: none was sent. */
async function startedTls(client: Client): Promise<void> {
  try {
    await client.send('AUTH TLS');
  } catch (error) {
    if (!(error instanceof FTPError)) throw error;
    throw new TargetFault(
      'refused',
      `The server offers no TLS: it says “${saysOf(error)}”. Without it anybody on the way could read the password, so nothing was sent. Ask whoever runs it to switch FTP over TLS on (RFC 4217), or use SFTP or WebDAV.`,
    );
  }
}

/** Waits for what a server says at first (RFC 959 §5.4). */
function greeted({ ftp }: Client): Promise<void> {
  return ftp.handle(undefined, (answer, task) => {
    if (answer instanceof Error) task.reject(answer);
    else if (answer.code === 220) task.resolve(undefined);
  }) as Promise<void>;
}

function fileWay(client: Client, root: string): FileTarget {
  const placeOf = (path: string) => posix.join(root, requireBelow(path));
  const names = namesOver(client);
  return {
    async read(path) {
      const place = placeOf(path);
      try {
        await requireOwn(client, root, path);
        const { isThere, size } = await sizeOf(client, place);
        if (!isThere) return null;
        if (size !== null && size > MOST_BYTES) throw tooLarge(path);
        const pieces: Buffer[] = [];
        let length = 0;
        const taking = new Writable({
          write(piece: Buffer, _, done) {
            length += piece.length;
            pieces.push(piece);
            done(length > MOST_BYTES ? tooLarge(path) : null);
          },
        });
        await client.downloadTo(taking, place);
        return Buffer.concat(pieces);
      } catch (error) {
        throw asFault(error, path, 'read');
      }
    },
    async write(path, bytes, nonce) {
      const place = placeOf(path);
      let part = '';
      try {
        await requireOwn(client, root, path);
        await folders(client, posix.dirname(place), root);
        part = await writtenBeside(names, place, nonce, async (beside) => {
          await client.uploadFrom(Readable.from([bytes]), beside);
        });
        await client.sendIgnoringError(`SITE CHMOD ${MODE} ${part}`);
        requireReadable(path, await modeOf(client, part), await modeOf(client, place));
        await exchange(names, part, place, nonce);
      } catch (error) {
        if (part !== '' && !client.closed)
          await client.sendIgnoringError(`DELE ${part}`).catch(() => undefined);
        throw asFault(error, path);
      }
    },
    async settle(path, nonce) {
      try {
        await settle(names, placeOf(path), nonce);
      } catch (error) {
        throw asFault(error, path);
      }
    },
    async remove(path) {
      try {
        const place = placeOf(path);
        await requireOwn(client, root, path);
        if (await names.isThere(place)) await names.remove(place);
      } catch (error) {
        throw asFault(error, path);
      }
    },
    close: () => {
      client.close();
      return Promise.resolve();
    },
  };
}

/**
 * How long a file is (RFC 3659 §4); null where there is none, or where it is not said. Not every server says it, and some keep names from
 * their listings, so it is asked in three ways before anything counts as missing.
 */
async function sizeOf(client: Client, place: string): Promise<Size> {
  const { code, message } = await client.sendIgnoringError(`SIZE ${place}`);
  if (code === 213) return { isThere: true, size: Number(/^213 (\d+)/u.exec(message)?.[1] ?? 0) };
  const found = (await listed(client, posix.dirname(place))).find(
    ({ name }) => name === posix.basename(place),
  );
  if (found && !found.isFile) throw new TargetFault('refused', `“${place}” is no plain file.`);
  if (found) return { isThere: true, size: found.size };
  return { isThere: await canBeNamed(client, place), size: null };
}

interface Size {
  readonly isThere: boolean;
  readonly size: number | null;
}

/** Of a folder that is not there nothing is listed; of one that may not be looked into neither. */
async function listed(client: Client, folder: string): Promise<FileInfo[]> {
  try {
    return await client.list(folder);
  } catch (error) {
    if (error instanceof FTPError && (error.code === NOT_DONE || error.code === NOT_NOW)) return [];
    throw error;
  }
}

/** Whether the server would take a name to be changed (RFC 959 §4.1.3): it says so of what is there, and nothing comes of it. */
async function canBeNamed(client: Client, place: string): Promise<boolean> {
  const { code } = await client.sendIgnoringError(`RNFR ${place}`);
  if (code === 350) await client.sendIgnoringError('NOOP');
  return code === 350;
}

/** How names are changed there. */
function namesOver(client: Client): Names {
  return {
    move: async (from, to) => {
      await client.rename(from, to);
    },
    remove: async (place) => {
      await client.send(`DELE ${place}`);
    },
    isThere: async (place) => (await sizeOf(client, place)).isThere,
    isRefusal: (error) => error instanceof FTPError && !client.closed,
  };
}

/** Makes the folders below the root that are not there yet. */
async function folders(client: Client, folder: string, root: string): Promise<void> {
  const below = posix.relative(root, folder);
  let at = root;
  for (const part of below === '' ? [] : below.split('/')) {
    at = posix.join(at, part);
    const { code } = await client.sendIgnoringError(`MKD ${at}`);
    // RFC 959 §5.4: it was made. What the server's umask took off its mode is given back.
    if (code === 257) await client.sendIgnoringError(`SITE CHMOD ${FOLDER_MODE} ${at}`);
  }
}

/** The mode of a file, where the server tells it (RFC 3659 §7, with the fact that most have for it); null where it does not. */
async function modeOf(client: Client, place: string): Promise<number | null> {
  const { message } = await client.sendIgnoringError(`MLST ${place}`);
  const told = /UNIX\.mode=(?<mode>[0-7]{3,4});/iu.exec(message)?.groups?.['mode'];
  return told === undefined ? null : Number.parseInt(told, 8);
}

/** Refuses a path that goes over a link: where it leads nobody tells over FTP, and it may be another's. */
async function requireOwn(client: Client, root: string, path: string): Promise<void> {
  let at = root;
  for (const part of path.split('/').slice(1, -1)) {
    const found = (await listed(client, at)).find(({ name }) => name === part);
    if (found?.isSymbolicLink === true)
      throw new TargetFault(
        'refused',
        `“${path}” goes over a link, “${part}”, which may lead out of ${root}.`,
      );
    if (!found) return;
    at = posix.join(at, part);
  }
}

function tooLarge(path: string): TargetFault {
  return new TargetFault('refused', `“${path}” is larger than anything that we publish.`);
}

function saysOf(error: unknown): string {
  return (error instanceof Error ? error.message : String(error)).slice(0, 300);
}

function asFault(error: unknown, path: string, what: 'read' | 'written' = 'written'): TargetFault {
  if (error instanceof TargetFault) return error;
  if (!(error instanceof FTPError))
    return new TargetFault('unreached', `The connection ended over “${path}”: ${saysOf(error)}`);
  if (what === 'written' && (NO_ROOM.has(error.code) || /space|quota/iu.test(error.message)))
    return new TargetFault(
      'full',
      `“${path}” could not be written: the server says “${saysOf(error)}”. Its disk may be full.`,
    );
  return new TargetFault(
    'denied',
    `“${path}” may not be ${what} under this login: the server says “${saysOf(error)}”.`,
  );
}
