import { fork, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Starts a program of this folder in a process of its own. */
export function start(file: string, args: readonly string[] = []): ChildProcess {
  // What is measured runs as it is installed: compiled, without a loader that takes memory of its own.
  const execArgv = file.endsWith('.ts') ? ['--import', 'tsx'] : [];
  return fork(fileURLToPath(new URL(file, import.meta.url)), args, { execArgv });
}

/** What a process says first. */
export function said<T>(child: ChildProcess): Promise<T> {
  return new Promise((resolve, reject) => {
    child.once('message', (message) => {
      resolve(message as T);
    });
    child.once('exit', (status) => {
      reject(new Error(`ended with ${String(status)}`));
    });
  });
}

/** A folder with empty records in it, as whoever installs the service has them before it does anything. */
export async function withRecords<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'yardbadge-bench-'));
  try {
    await said(start('records.js', [join(folder, 'yardbadge.sqlite')]));
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
