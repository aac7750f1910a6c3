import { existsSync, lstatSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
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
 * Where the service is and the key for it: from the environment, the nearest local folder, or the home folder. A local one that
 * is not one's own is passed over, and said so; a local one in place of one's usual is said too, since it may be a surprise.
 */
export function readSignIn(env: NodeJS.ProcessEnv): SignIn {
  const { YARDBADGE_URL: url, YARDBADGE_KEY: key } = env;
  if (url !== undefined && key !== undefined) return { url, key };
  const local = findLocal(FILE);
  const usual = homeFile(env);
  const isTaken = local !== null && isOwn(local);
  if (local !== null && !isTaken)
    sayAside(`${local} was passed over: it is not yours alone (expected your own file, mode 600).`);
  const file = isTaken ? local : usual;
  if (!existsSync(file))
    throw new Usage(
      'Not signed in. “yardbadge login URL --name NAME” does it; “yardbadge demo” signs in by itself.',
    );
  const signIn = read(file);
  if (isTaken && existsSync(usual) && read(usual).url !== signIn.url)
    sayAside(`Working at ${signIn.url}, by ${file}; your usual service is ${read(usual).url}.`);
  return signIn;
}

function read(file: string): SignIn {
  try {
    const { url, key } = JSON.parse(readFileSync(file, 'utf8')) as Partial<SignIn>;
    if (typeof url === 'string' && typeof key === 'string') return { url, key };
  } catch {
    // Told below: what is in it is no sign-in either way.
  }
  throw new Usage(`${file} does not hold a sign-in. “yardbadge login URL --name NAME” makes one.`);
}

/** Keeps a sign-in in the home folder, readable by its owner alone. @returns the file */
export function keepSignIn(env: NodeJS.ProcessEnv, signIn: SignIn): string {
  const file = homeFile(env);
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  writeFileSync(file, `${JSON.stringify(signIn)}\n`, { mode: 0o600 });
  return file;
}
