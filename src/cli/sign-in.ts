import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { Usage } from './exit.js';

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

function homeFile(env: NodeJS.ProcessEnv): string {
  return join(env['XDG_CONFIG_HOME'] ?? join(homedir(), '.config'), 'yardbadge', FILE);
}

/** Where the service is and the key for it: from the environment, the nearest local folder, or the home folder. */
export function readSignIn(env: NodeJS.ProcessEnv): SignIn {
  const { YARDBADGE_URL: url, YARDBADGE_KEY: key } = env;
  if (url !== undefined && key !== undefined) return { url, key };
  const file = findLocal(FILE) ?? homeFile(env);
  if (!existsSync(file))
    throw new Usage(
      'Not signed in. “yardbadge login URL --name NAME” does it; “yardbadge demo” signs in by itself.',
    );
  return JSON.parse(readFileSync(file, 'utf8')) as SignIn;
}

/** Keeps a sign-in in the home folder, readable by its owner alone. @returns the file */
export function keepSignIn(env: NodeJS.ProcessEnv, signIn: SignIn): string {
  const file = homeFile(env);
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  writeFileSync(file, `${JSON.stringify(signIn)}\n`, { mode: 0o600 });
  return file;
}
