import { readFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Fastify from 'fastify';
import { stringify } from 'yaml';
import { addPersonWithKeyHere } from '../src/service/persons.js';
import { loadSettings } from '../src/service/settings/load.js';
import { newId } from '../src/store/ids.js';
import { startBuiltService } from '../test/support/built.js';
import { makeAgency } from './agency-records.js';

/** The main answers, each a page as it comes without being asked for another size. */
export const PATHS = ['/yard?limit=50', '/worklist?limit=50', '/sitemaps?limit=50', '/session'] as const;
const TIMES = 60;
/** So often each is asked beforehand: what runs for the first times is still being compiled, on both sides. */
const WARM = 30;
const CLIENTS = 8;
const STORM_MS = 20_000;

/** Median and 95th over those of a bare service, and the median in milliseconds. */
export interface Ratio {
  readonly p50: number;
  readonly p95: number;
  readonly ms: number;
}

export interface AnswersMeasured {
  /** By path: median and 95th of a hundred, each over that of a bare service that sends the same bytes. */
  readonly ratios: ReadonlyMap<string, Ratio>;
  readonly peakMegabytes: number;
  /** Milliseconds until everything was derived for the first time. */
  readonly firstMs: number;
}

export function at(values: readonly number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? NaN;
}

export async function took(url: string, key: string): Promise<{ ms: number; body: string }> {
  const begun = performance.now();
  const response = await fetch(url, { headers: { authorization: `Bearer ${key}` } });
  const body = await response.text();
  if (!response.ok) throw new Error(`${url}: ${body}`);
  return { ms: performance.now() - begun, body };
}

/** A service with records of its own in a folder that goes with it, and how to ask it as one who may. */
export interface Served {
  readonly folder: string;
  readonly url: string;
  readonly key: string;
  readonly pid: number;
}

/** Makes records, runs the built service over them while `work` is done, and throws all of it away. */
export async function withService<T>(
  make: (file: string) => Promise<unknown>,
  work: (served: Served) => Promise<T>,
  net: object = {},
  more: object = {},
): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-bench-'));
  try {
    await make(join(folder, 'y.sqlite'));
    return await serving(folder, work, net, more);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Runs the built service over the records of a folder while `work` is done. */
export async function serving<T>(
  folder: string,
  work: (served: Served) => Promise<T>,
  net: object = {},
  /** Settings besides. */
  more: object = {},
): Promise<T> {
  const config = join(folder, 'yardbadge.yaml');
  const engines = fileURLToPath(new URL('../engines/rehearsal', import.meta.url));
  const listen = { host: '127.0.0.1', port: 0 };
  const own = { listen, data: './y.sqlite', keyFile: './y.key', engines, log: 'error', net, ...more };
  writeFileSync(config, stringify(own));
  const { settings } = await loadSettings(config, {}, {});
  const person = {
    name: `marit-${newId()}`,
    role: 'lead',
    password: 'lantern-at-the-quay',
  } as const;
  const key = await addPersonWithKeyHere(settings, person, 'bench');
  const { child, url } = await startBuiltService({ config, env: {} });
  try {
    return await work({ folder, url: `${url}/api/v1`, key, pid: child.pid ?? 0 });
  } finally {
    child.kill('SIGTERM');
    await new Promise((done) => child.once('exit', done));
  }
}

/** A service that does nothing but send what it was given for a path. */
async function bareService(
  bodies: ReadonlyMap<string, string>,
): Promise<{ url: string; close: () => Promise<void> }> {
  const bare = Fastify();
  bare.get('/bare', (request, reply) =>
    reply.type('application/json').send(bodies.get((request.query as { path: string }).path)),
  );
  return { url: await bare.listen({ host: '127.0.0.1', port: 0 }), close: () => bare.close() };
}

/** How answers compare, turn by turn, with those of a bare service that sends the same bytes. */
export async function ratiosOf({ url, key }: Served, paths: readonly string[]): Promise<Map<string, Ratio>> {
  const bodies = new Map<string, string>();
  const bare = await bareService(bodies);
  const ratios = new Map<string, Ratio>();
  try {
    for (const path of paths) {
      bodies.set(path, (await took(url + path, key)).body);
      const ours: number[] = [];
      const theirs: number[] = [];
      for (let time = -WARM; time < TIMES; time += 1) {
        const mine = (await took(url + path, key)).ms;
        const other = (await took(`${bare.url}/bare?path=${encodeURIComponent(path)}`, key)).ms;
        if (time < 0) continue;
        ours.push(mine);
        theirs.push(other);
      }
      ratios.set(path, {
        p50: at(ours, 0.5) / at(theirs, 0.5),
        p95: at(ours, 0.95) / at(theirs, 0.95),
        ms: at(ours, 0.5),
      });
    }
  } finally {
    await bare.close();
  }
  return ratios;
}

/** The service's main answers over an agency of some size. */
export function measureAnswers(properties: number): Promise<AnswersMeasured> {
  return withService(
    (file) => makeAgency(file, properties),
    async (served) => {
      const { url, key, pid } = served;
      const firstMs = (await took(`${url}/worklist?limit=1`, key)).ms;
      const ratios = await ratiosOf(served, PATHS);
      const until = performance.now() + STORM_MS;
      const storm = async (): Promise<void> => {
        for (let turn = 0; performance.now() < until; turn += 1)
          await took(url + (PATHS[turn % PATHS.length] ?? PATHS[0]), key);
      };
      await Promise.all(Array.from({ length: CLIENTS }, storm));
      const status = readFileSync(`/proc/${String(pid)}/status`, 'utf8');
      return {
        ratios,
        firstMs,
        peakMegabytes: Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024,
      };
    },
  );
}
