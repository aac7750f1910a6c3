import { existsSync, lstatSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { Usage } from './exit.js';
import { sayAside } from './print/text.js';

/** The folder in which a rehearsal keeps everything, and where the command line finds its sign-in. */
export const LOCAL_FOLDER = '.yardbadge';
const FILE = 'signin.json';

export interface SignIn {
  readonly url: string;
  readonly key: string;
}

/** A sign-in and how it came to be the one that counts. */
export interface SignInHere extends SignIn {
  /** The file that holds it; null for one from the environment. */
  readonly file: string | null;
  /** As whom a demo signed the command line in by itself; null for a sign-in that a person made. */
  readonly demo: string | null;
}

/** A sign-in as it is kept. */
interface Kept extends SignIn {
  /** When it was made; RFC 3339. What was kept before this was noted counts as the older one. */
  readonly at: string;
  readonly demo: string | null;
}

/** The nearest file of the local folder, from here upwards; null where there is none. */
export function findLocal(name: string, from = process.cwd()): string | null {
  for (let folder = resolve(from); ; folder = dirname(folder)) {
    const file = join(folder, LOCAL_FOLDER, name);
    if (existsSync(file)) return file;
    if (folder === dirname(folder)) return null;
  }
}

/**
 * Whether a file is one's own: of the same user, for nobody else to read or write, and no link. A folder above may be anybody's (a
 * checkout, a temporary folder), and what is sent goes where the file says.
 */
function isOwn(file: string): boolean {
  const { uid, mode } = lstatSync(file);
  const isFile = lstatSync(file).isFile();
  return isFile && (process.getuid === undefined || uid === process.getuid()) && (mode & 0o077) === 0;
}

function homeFile(env: NodeJS.ProcessEnv): string {
  return join(env['XDG_CONFIG_HOME'] ?? join(homedir(), '.config'), 'yardbadge', FILE);
}

/**
 * Where the service is and the key for it: from the environment; else the sign-in made last, in the nearest local folder, where a
 * demo keeps its own, or in the home folder, where `login` does. A local one that is not one's own is passed over, and said so; a local
 * one in place of one's usual is said too, since it may be a surprise.
 */
export function readSignIn(env: NodeJS.ProcessEnv): SignInHere {
  const { YARDBADGE_URL: url, YARDBADGE_KEY: key } = env;
  if (url !== undefined && key !== undefined) return { url, key, file: null, demo: null };
  const local = findLocal(FILE);
  const home = homeFile(env);
  const isTaken = local !== null && isOwn(local);
  if (local !== null && !isTaken)
    sayAside(`${local} was passed over: it is not yours alone (expected your own file, mode 600).`);
  const here = isTaken ? { file: local, ...read(local) } : null;
  const usual = existsSync(home) ? { file: home, ...read(home) } : null;
  if (here && usual && usual.at <= here.at && usual.url !== here.url)
    sayAside(`Working at ${here.url}, by ${here.file}; your usual service is ${usual.url}.`);
  const [newest] = [usual, here].flatMap((one) => one ?? []).sort((a, b) => (a.at < b.at ? 1 : -1));
  if (newest) return newest;
  throw new Usage(
    'Not signed in. “yardbadge login URL --name NAME” does it; “yardbadge demo” signs in by itself.',
  );
}

function read(file: string): Kept {
  try {
    const { url, key, at, demo } = JSON.parse(readFileSync(file, 'utf8')) as Partial<Kept>;
    if (typeof url === 'string' && typeof key === 'string')
      return {
        url,
        key,
        at: typeof at === 'string' ? at : '',
        demo: typeof demo === 'string' ? demo : null,
      };
  } catch {
    // Told below: what is in it is no sign-in either way.
  }
  throw new Usage(`${file} does not hold a sign-in. “yardbadge login URL --name NAME” makes one.`);
}

/** Keeps a sign-in in the home folder, readable by its owner alone. @returns the file */
export function keepSignIn(env: NodeJS.ProcessEnv, signIn: SignIn): string {
  const file = homeFile(env);
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  // When this command was begun: that is near enough to tell which sign-in was made last.
  const at = new Date(performance.timeOrigin).toISOString();
  // Written anew, so that its mode is this one, whatever stood there.
  rmSync(file, { force: true });
  writeFileSync(file, `${JSON.stringify({ ...signIn, at })}\n`, { mode: 0o600 });
  return file;
}

/** Forgets a sign-in that is kept in a file. */
export function forgetSignIn(file: string): void {
  rmSync(file, { force: true });
}
