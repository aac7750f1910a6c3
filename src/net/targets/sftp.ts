import { createHash } from 'node:crypto';
import { posix } from 'node:path';
import type { Socket } from 'node:net';
import ssh2, { Client, type SFTPWrapper } from 'ssh2';
import { exchange, settle, writtenBeside, type Names } from './exchange.js';
import { TargetFault, MOST_BYTES, requireBelow, requireReadable, type FileTarget } from './file-target.js';

/** How a web root is reached over SSH. */
export interface SftpAt {
  readonly user: string;
  /** The folder that is the web root, absolute or from the login's own. */
  readonly root: string;
  /** A password, or a private key in the form of OpenSSH or PEM. */
  readonly secret: string;
  /** The fingerprint that the host has to show; null to take what it shows. */
  readonly pin: string | null;
}

const MODE = 0o644;
const FOLDER_MODE = 0o755;
/** Milliseconds for signing in, and for one order. */
const PATIENCE_MS = 20_000;
/** The same for a whole file. */
const FILE_MS = 300_000;

/** Codes of SFTP (draft-ietf-secsh-filexfer-02 §7). */
const NO_SUCH_FILE = 2;
const PERMISSION_DENIED = 3;

/** The fingerprint of a host key as people compare it (RFC 4255 takes the same hash). */
export function fingerprintOf(key: Buffer): string {
  return `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/u, '')}`;
}

function isPrivateKey(secret: string): boolean {
  return secret.includes('PRIVATE KEY-----');
}

/** Why a private key can be used by nobody who only has it; null for one that can, and for a password. */
export function keyFaultOf(secret: string): string | null {
  if (!isPrivateKey(secret)) return null;
  const parsed = ssh2.utils.parseKey(secret);
  if (!(parsed instanceof Error)) return null;
  return /encrypted/iu.test(parsed.message)
    ? "The private key is locked by a passphrase, so the service cannot use it. Expected a key without one, made for this place alone (“ssh-keygen -N ''”)."
    : `The private key cannot be read: ${parsed.message.slice(0, 200)}. Expected one in the form of OpenSSH or PEM.`;
}

/**
 * Signs in over a connection that is made already, so that the guard has had its say.
 * @param shown is told the host's fingerprint, once it is known to be the one that was pinned
 * @throws CarryFault
 */
export async function openSftp(
  socket: Socket,
  at: SftpAt,
  shown: (pin: string) => void,
): Promise<FileTarget> {
  const client = new Client();
  let seen: string | null = null;
  const isKey = isPrivateKey(at.secret);
  const sftp = await new Promise<SFTPWrapper>((done, fail) => {
    client.on('error', (error) => {
      fail(faultOf(error, seen, at));
    });
    client.on('close', () => {
      fail(new TargetFault('unreached', 'The connection ended before it was ready.'));
    });
    client.on('ready', () => {
      client.sftp((error, opened) => {
        if (error) fail(new TargetFault('refused', `The server offers no SFTP: ${error.message}`));
        else done(opened);
      });
    });
    try {
      client.connect({
        sock: socket,
        username: at.user,
        readyTimeout: PATIENCE_MS,
        ...(isKey ? { privateKey: at.secret } : { password: at.secret }),
        hostVerifier: (key: Buffer) => {
          seen = fingerprintOf(key);
          return at.pin === null || at.pin === seen;
        },
      });
    } catch (error) {
      fail(faultOf(error, seen, at));
    }
  }).catch((error: unknown) => {
    client.end();
    socket.destroy();
    throw error;
  });
  if (seen !== null) shown(seen);
  return fileWay(client, sftp, at.root);
}

function fileWay(client: Client, sftp: SFTPWrapper, root: string): FileTarget {
  // What is under way when the connection ends is never answered.
  const over = new AbortController();
  client.once('close', () => {
    over.abort(new TargetFault('unreached', 'The connection ended.'));
  });
  const call = <T = void>(begin: Begin<T>, ms?: number): Promise<T> => called(over.signal, begin, ms);
  const names = namesOver(sftp, call);
  const real = (folder: string) =>
    call<string>((done) => {
      sftp.realpath(folder, done);
    });
  /** Where a path is; nothing is followed out of the root, whatever links stand in it. */
  const placeOf = async (path: string): Promise<string> => {
    const place = posix.join(root, requireBelow(path));
    const above = await real(root);
    let folder = posix.dirname(place);
    // Of a folder that is not there yet, the nearest one above it tells.
    while (folder !== root && folder.length > root.length && !(await names.isThere(folder)))
      folder = posix.dirname(folder);
    const at = await real(folder);
    if (at !== above && !at.startsWith(above.endsWith('/') ? above : `${above}/`))
      throw new TargetFault('refused', `“${path}” leads out of ${root} by a link.`);
    return place;
  };
  return {
    async read(path) {
      try {
        const place = await placeOf(path);
        const { size, isFile } = await call<{ size: number; isFile: boolean }>((done) => {
          sftp.lstat(place, (error, stats) => {
            done(error, { size: Number(stats?.size ?? 0), isFile: stats?.isFile() === true });
          });
        });
        if (!isFile) throw new TargetFault('refused', `“${path}” is no plain file.`);
        if (size > MOST_BYTES)
          throw new TargetFault('refused', `“${path}” is larger than anything that we publish.`);
        return await call<Buffer>((done) => {
          sftp.readFile(place, done);
        }, FILE_MS);
      } catch (error) {
        if (isNothing(error)) return null;
        throw asFault(error, path, 'read');
      }
    },
    async write(path, bytes, nonce) {
      let part = '';
      try {
        const place = await placeOf(path);
        await folders(sftp, call, posix.dirname(place), root);
        part = await writtenBeside(names, place, nonce, (beside) =>
          call((done) => {
            sftp.writeFile(beside, bytes, { mode: MODE, flag: 'wx' }, done);
          }, FILE_MS),
        );
        await setMode(sftp, call, part, MODE);
        requireReadable(path, await modeOf(sftp, call, part), await modeOf(sftp, call, place));
        await exchange(names, part, place, nonce);
      } catch (error) {
        if (part !== '') await names.remove(part).catch(() => undefined);
        throw asFault(error, path);
      }
    },
    async settle(path, nonce) {
      try {
        await settle(names, await placeOf(path), nonce);
      } catch (error) {
        throw asFault(error, path);
      }
    },
    async remove(path) {
      try {
        await names.remove(await placeOf(path));
      } catch (error) {
        if (!isNothing(error)) throw asFault(error, path);
      }
    },
    close: () => {
      client.end();
      return Promise.resolve();
    },
  };
}

/** How names are changed there: in one go where the server knows how (`posix-rename@openssh.com`). */
function namesOver(sftp: SFTPWrapper, call: Call): Names {
  return {
    async move(from, to) {
      try {
        await call((done) => {
          sftp.ext_openssh_rename(from, to, done);
        });
      } catch (error) {
        if (error instanceof TargetFault) throw error;
        await call((done) => {
          sftp.rename(from, to, done);
        });
      }
    },
    remove: (place) =>
      call((done) => {
        sftp.unlink(place, done);
      }),
    async isThere(place) {
      try {
        await call((done) => {
          sftp.lstat(place, (error) => {
            done(error);
          });
        });
        return true;
      } catch (error) {
        if (isNothing(error)) return false;
        throw error;
      }
    },
    isRefusal: (error) => !(error instanceof TargetFault),
  };
}

function isNothing(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === NO_SUCH_FILE;
}

/** Makes the folders below the root that are not there yet. */
async function folders(sftp: SFTPWrapper, call: Call, folder: string, root: string): Promise<void> {
  const below = posix.relative(root, folder);
  let at = root;
  for (const part of below === '' ? [] : below.split('/')) {
    at = posix.join(at, part);
    const isMade = await call((done) => {
      sftp.mkdir(at, { mode: FOLDER_MODE }, done);
    }).then(
      () => true,
      () => false,
    );
    if (isMade) await setMode(sftp, call, at, FOLDER_MODE);
  }
}

/** Servers take what their umask says off the mode with which something is made; what is set afterwards stays, where they let it be set. */
async function setMode(sftp: SFTPWrapper, call: Call, place: string, mode: number): Promise<void> {
  await call((done) => {
    sftp.chmod(place, mode, done);
  }).catch(passRefusal);
}

/** The mode of what stands somewhere; null where nothing does, or nobody tells. */
async function modeOf(sftp: SFTPWrapper, call: Call, place: string): Promise<number | null> {
  const mode = await call<number | undefined>((done) => {
    sftp.lstat(place, (error, stats) => {
      done(error, stats?.mode);
    });
  }).catch(passRefusal);
  return mode ?? null;
}

/** What the server refuses is no fault here; that it is not there any more is. */
function passRefusal(error: unknown): undefined {
  if (error instanceof TargetFault) throw error;
}

type Begin<T> = (done: (error: Error | null | undefined, value?: T) => void) => void;
type Call = <T = void>(begin: Begin<T>, ms?: number) => Promise<T>;

/** One order to the server, and its answer: within its time, and as long as there is a connection. */
function called<T>(over: AbortSignal, begin: Begin<T>, ms = PATIENCE_MS): Promise<T> {
  return new Promise((resolve, reject) => {
    const end = (settle: () => void): void => {
      clearTimeout(timer);
      over.removeEventListener('abort', ended);
      settle();
    };
    const ended = (): void => {
      end(() => {
        reject(over.reason as Error);
      });
    };
    const timer = setTimeout(() => {
      end(() => {
        reject(new TargetFault('unreached', 'The server did not answer in time.'));
      });
    }, ms);
    over.addEventListener('abort', ended);
    if (over.aborted) {
      ended();
      return;
    }
    begin((error, value) => {
      end(() => {
        if (error) reject(error);
        else resolve(value as T);
      });
    });
  });
}

function asFault(error: unknown, path: string, what: 'read' | 'written' = 'written'): TargetFault {
  if (error instanceof TargetFault) return error;
  const code = error instanceof Error && 'code' in error ? error.code : null;
  const says = error instanceof Error ? error.message : String(error);
  if (code === PERMISSION_DENIED)
    return new TargetFault('denied', `“${path}” may not be ${what} under this login.`);
  if (what === 'read')
    return new TargetFault('refused', `“${path}” could not be read: the server says “${says}”.`);
  return new TargetFault(
    'full',
    `“${path}” could not be written: the server says “${says}”. Its disk may be full.`,
  );
}

function faultOf(error: unknown, seen: string | null, at: SftpAt): TargetFault {
  if (error instanceof TargetFault) return error;
  const says = error instanceof Error ? error.message : String(error);
  if (at.pin !== null && seen !== null && seen !== at.pin)
    return new TargetFault(
      'other-key',
      `The server shows another host key (${seen}) than before (${at.pin}): it is another machine, or was set up anew. Nothing was sent.`,
      seen,
    );
  const level = error instanceof Error && 'level' in error ? String(error.level) : '';
  if (level === 'client-authentication')
    return new TargetFault('denied', `The server does not let “${at.user}” in with what we have.`);
  return new TargetFault('unreached', `The server could not be spoken to: ${says}`);
}
