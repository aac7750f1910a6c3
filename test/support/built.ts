import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { World } from '../../src/rehearsal/world.js';
import type { Stage } from './stage.js';

/** The built program: these tests drive what is shipped, as a process. */
export const PROGRAM = fileURLToPath(new URL('../../dist/cli/main.js', import.meta.url));

if (!existsSync(PROGRAM)) throw new Error('Build first: npm run build (make test does it).');

export async function startBuiltService(
  world: Pick<World, 'config' | 'env'>,
): Promise<{ child: ChildProcess; url: string }> {
  const child = spawn(process.execPath, [PROGRAM, 'serve', '--config', world.config], {
    env: { ...process.env, ...world.env, YARDBADGE_LOG: 'error' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let said = '';
  const url = await new Promise<string>((done, fail) => {
    child.stdout.on('data', (piece: Buffer) => {
      said += piece.toString();
      const found = /answers at (http\S+)/.exec(said)?.[1];
      if (found !== undefined) done(found);
    });
    child.once('exit', (status) => {
      fail(new Error(`the service ended with ${String(status)}`));
    });
  });
  return { child, url };
}

export interface Ran {
  readonly status: number;
  readonly out: string;
  readonly err: string;
}

/** Runs one command line to its end. */
export function runCli(
  args: readonly string[],
  env: NodeJS.ProcessEnv,
  input = '',
  cwd = tmpdir(),
): Promise<Ran> {
  return new Promise((done) => {
    const child = execFile(
      process.execPath,
      [PROGRAM, ...args],
      { cwd, env: { ...process.env, ...env } },
      (error, out, err) => {
        done({ status: typeof error?.code === 'number' ? error.code : 0, out, err });
      },
    );
    child.stdin?.end(input);
  });
}

/** The command line as its user has it: signed in at a stage, with a home of her own. */
export function cliAt(stage: () => Stage, home: string): (...args: string[]) => Promise<Ran> {
  return (...args) => {
    const { url, key, folder } = stage();
    return runCli(args, {
      YARDBADGE_URL: url,
      YARDBADGE_KEY: key,
      YARDBADGE_REHEARSAL: join(folder, 'rehearsal.json'),
      XDG_CONFIG_HOME: home,
    });
  };
}
