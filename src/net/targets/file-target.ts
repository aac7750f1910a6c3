/** What went wrong on the way to a place, in words for the one who has to mend it. */
export class TargetFault extends Error {
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
export interface FileTarget {
  /** What stands there. @returns null where nothing does. Throws CarryFault. */
  read(path: string): Promise<Buffer | null>;
  /**
   * Writes under a temporary name and renames, so that nobody ever sees half of it.
   * @param nonce what is in the temporary name, for who clears it away should the connection be cut
   * @throws CarryFault
   */
  write(path: string, bytes: Buffer, nonce: string): Promise<void>;
  /** Ends a `write` that was cut off: what stood there before stands there again, or what was written does, and nothing is left beside it. */
  settle(path: string, nonce: string): Promise<void>;
  remove(path: string): Promise<void>;
  close(): Promise<void>;
}

/** Nothing that is carried, and nothing that is read back, is longer than a sitemap may be. */
export const MOST_BYTES = 52_428_800;

/** The name beside a file under which it is written first: hidden, and no name that a server would hand out as a page. */
export function temporaryName(path: string, nonce: string): string {
  const at = path.lastIndexOf('/');
  return `${path.slice(0, at + 1)}.${path.slice(at + 1)}.${nonce}.part`;
}

/** Names beside a file, in the order in which they are tried: there are servers that take none which begins with a dot. */
export function temporaryNames(path: string, nonce: string): readonly [hidden: string, plain: string] {
  return [temporaryName(path, nonce), `${path}.${nonce}.part`];
}

/** Of a file's mode, whether everybody may read it. */
const READABLE = 0o004;

/**
 * Refuses to put a file that a web server may not be able to read in the place of one that it can. Of modes that nobody tells nothing is said.
 * @throws CarryFault
 */
export function requireReadable(path: string, part: number | null, before: number | null): void {
  if (part === null || before === null || (part & READABLE) !== 0 || (before & READABLE) === 0) return;
  throw new TargetFault(
    'refused',
    `“${path}” was left as it is: the server gives new files the mode ${(part & 0o777).toString(8)} and lets it not be changed, so the web server might not be able to read the new one. Please set its “umask” to 022.`,
  );
}

/** Milliseconds that one file may take, however slowly it comes: fifty megabytes over a poor line. */
const LONGEST_MS = 300_000;

/** A way on which nothing takes without end, whatever the other side does: who answers a letter a minute is left. */
export function bounded(way: FileTarget): FileTarget {
  const within = async <T>(work: Promise<T>): Promise<T> => {
    let timer: NodeJS.Timeout | undefined;
    const over = new Promise<never>((_, fail) => {
      timer = setTimeout(() => {
        fail(new TargetFault('unreached', 'The server takes too long.'));
        void way.close();
      }, LONGEST_MS);
    });
    try {
      return await Promise.race([work, over]);
    } finally {
      clearTimeout(timer);
    }
  };
  return {
    read: (path) => within(way.read(path)),
    write: (path, bytes, nonce) => within(way.write(path, bytes, nonce)),
    settle: (path, nonce) => within(way.settle(path, nonce)),
    remove: (path) => within(way.remove(path)),
    close: () => way.close(),
  };
}

/** A path that stays below its root: made of names, none of which goes up. Throws CarryFault. */
export function requireBelow(path: string): string {
  const parts = path.split('/').slice(1);
  const isSound =
    path.startsWith('/') &&
    parts.every((part) => part !== '' && part !== '.' && part !== '..' && !/[\0\\]/u.test(part));
  if (!isSound) throw new TargetFault('refused', `“${path}” is no path below the web root.`);
  return path;
}
