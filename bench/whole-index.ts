import { fork, type ChildProcess } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export interface IndexMeasured {
  readonly addresses: number;
  readonly findings: readonly string[];
  readonly seconds: number;
  /** Of the process that reads, everything in it. */
  readonly peakMegabytes: number;
  /** How many addresses were kept, and what they take in the records. */
  readonly keptAddresses: number;
  readonly keptMegabytes: number;
}

function start(file: string, args: readonly string[] = []): ChildProcess {
  // What is measured runs as it is installed: compiled, without a loader that takes memory of its own.
  const execArgv = file.endsWith('.ts') ? ['--import', 'tsx'] : [];
  return fork(fileURLToPath(new URL(file, import.meta.url)), args, { execArgv });
}

function said<T>(child: ChildProcess): Promise<T> {
  return new Promise((resolve, reject) => {
    child.once('message', (message) => {
      resolve(message as T);
    });
    child.once('exit', (status) => {
      reject(new Error(`ended with ${String(status)}`));
    });
  });
}

/** Reads an index of 200 sitemaps of 50,000 addresses each, in a process of its own. @param kept addresses at most */
export async function measureIndex(kept: number): Promise<IndexMeasured> {
  const server = start('index-server.ts');
  const { http, dns, url } = await said<{ http: number; dns: number; url: string }>(server);
  const folder = await mkdtemp(join(tmpdir(), 'yardbadge-bench-'));
  try {
    await said(start('records.js', [join(folder, 'yardbadge.sqlite')]));
    return await said<IndexMeasured>(
      start('index-reader.js', [String(http), String(dns), url, String(kept), folder]),
    );
  } finally {
    server.disconnect();
    await rm(folder, { recursive: true, force: true });
  }
}

export interface InsideMeasured {
  readonly entries: number;
  readonly seconds: number;
  /** Each question as a multiple of one bare pass over all rows, in time. */
  readonly ratios: Readonly<Record<string, number>>;
}

/** Looks inside an index of 20 sitemaps of 50,000 addresses each, and asks for pages of it. */
export async function measureInside(): Promise<InsideMeasured> {
  const server = start('index-server.ts', ['20']);
  const { http, dns, url } = await said<{ http: number; dns: number; url: string }>(server);
  try {
    return await said<InsideMeasured>(start('inside-reader.js', [String(http), String(dns), url]));
  } finally {
    server.disconnect();
  }
}
