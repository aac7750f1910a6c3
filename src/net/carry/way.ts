import { randomBytes } from 'node:crypto';

/** What went wrong on the way to a place, in words for the one who has to mend it. */
export class CarryFault extends Error {
  constructor(
    readonly kind: 'unreached' | 'denied' | 'other-key' | 'refused' | 'full',
    message: string,
    /** What the other side showed in place of what was pinned. */
    readonly shown: string | null = null,
  ) {
    super(message);
  }
}

/** A folder of a web server, however it is reached. Paths begin with `/`, from its root. */
export interface FileWay {
  /** What stands there. @returns null where nothing does. Throws CarryFault. */
  read(path: string): Promise<Buffer | null>;
  /**
   * Writes under a temporary name and renames, so that nobody ever sees half of it.
   * @param nonce what is in the temporary name, for who clears it away should the connection be cut; by chance where it is left out
   * @throws CarryFault
   */
  write(path: string, bytes: Buffer, nonce?: string): Promise<void>;
  remove(path: string): Promise<void>;
  close(): Promise<void>;
}

/** Nothing that is carried, and nothing that is read back, is longer than a sitemap may be. */
export const MOST_BYTES = 52_428_800;

/** The name beside a file under which it is written first: hidden, and no name that a server would hand out as a page. */
export function temporaryName(path: string, nonce = randomBytes(6).toString('hex')): string {
  const at = path.lastIndexOf('/');
  return `${path.slice(0, at + 1)}.${path.slice(at + 1)}.${nonce}.part`;
}

/** A path that stays below its root: made of names, none of which goes up. Throws CarryFault. */
export function requireBelow(path: string): string {
  const parts = path.split('/').slice(1);
  const isSound =
    path.startsWith('/') &&
    parts.every((part) => part !== '' && part !== '.' && part !== '..' && !/[\0\\]/u.test(part));
  if (!isSound) throw new CarryFault('refused', `“${path}” is no path below the web root.`);
  return path;
}
