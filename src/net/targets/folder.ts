import { constants } from 'node:fs';
import { lstat, mkdir, open, realpath, rename, rm, type FileHandle } from 'node:fs/promises';
import { dirname, join, sep } from 'node:path';
import { TargetFault, MOST_BYTES, requireBelow, temporaryName, type FileTarget } from './file-target.js';

/** Files are for everybody to read, and for us alone to write. */
const MODE = 0o644;

/** A folder of this machine, or one that is mounted here. @param root must be there */
export async function openFolder(root: string): Promise<FileTarget> {
  const real = await realpath(root).catch((error: unknown) => {
    throw faultOf(error, root);
  });
  /** Where a path really is; nothing is followed out of the root, whatever links stand in it. */
  const placeOf = async (path: string, isToBe: boolean): Promise<string> => {
    const place = join(real, requireBelow(path));
    const folder = dirname(place);
    if (isToBe) await mkdir(folder, { recursive: true, mode: 0o755 });
    const above = await realpath(folder).catch(() => null);
    if (above !== null && above !== real && !above.startsWith(real + sep))
      throw new TargetFault('refused', `“${path}” leads out of ${root} by a link.`);
    return place;
  };
  const guarded = async <T>(path: string, work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      throw faultOf(error, path);
    }
  };
  return {
    read: (path) =>
      guarded(path, async () => {
        const place = await placeOf(path, false);
        const seen = await lstat(place).catch(() => null);
        if (!seen) return null;
        if (!seen.isFile()) throw new TargetFault('refused', `“${path}” is no plain file.`);
        if (seen.size > MOST_BYTES)
          throw new TargetFault('refused', `“${path}” is larger than anything that we publish.`);
        const file = await open(place, constants.O_RDONLY | constants.O_NOFOLLOW);
        return closing(file, () => file.readFile());
      }),
    write: (path, bytes, nonce) =>
      guarded(path, async () => {
        const place = await placeOf(path, true);
        const part = temporaryName(place, nonce);
        try {
          const file = await open(part, 'wx', MODE);
          await closing(file, async () => {
            await file.writeFile(bytes);
            await file.chmod(MODE);
            await file.sync();
          });
          await rename(part, place);
        } catch (error) {
          await rm(part, { force: true });
          throw error;
        }
      }),
    settle: (path, nonce) =>
      guarded(path, async () => rm(temporaryName(await placeOf(path, false), nonce), { force: true })),
    remove: (path) => guarded(path, async () => rm(await placeOf(path, false), { force: true })),
    close: () => Promise.resolve(),
  };
}

async function closing<T>(file: FileHandle, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } finally {
    await file.close();
  }
}

const KINDS: Readonly<Record<string, TargetFault['kind']>> = {
  EACCES: 'denied',
  EPERM: 'denied',
  EROFS: 'denied',
  ENOSPC: 'full',
  EDQUOT: 'full',
};
const SAYS: Readonly<Record<string, string>> = {
  ENOENT: 'is not there',
  EACCES: 'may not be written by the service',
  EPERM: 'may not be written by the service',
  EROFS: 'can only be read',
  ENOSPC: 'is on a disk that is full',
  EDQUOT: 'has no room left for the service',
  ENOTDIR: 'is no folder',
};

function faultOf(error: unknown, what: string): TargetFault {
  if (error instanceof TargetFault) return error;
  const code = error instanceof Error && 'code' in error ? String(error.code) : '';
  return new TargetFault(KINDS[code] ?? 'refused', `${what} ${SAYS[code] ?? `cannot be used (${code})`}.`);
}
