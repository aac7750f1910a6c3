import { readFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Fastify from 'fastify';
import { stringify } from 'yaml';
import { addPersonWithKeyHere } from '../src/service/persons.js';
import { loadSettings } from '../src/service/settings/load.js';
import { startBuiltService } from '../test/support/built.js';
import { makeAgency } from './agency-records.js';

/** The main answers, each a page as it comes without being asked for another size. */
const PATHS = ['/yard?limit=50', '/worklist?limit=50', '/sitemaps?limit=50', '/session'] as const;
const TIMES = 60;
const CLIENTS = 8;
const STORM_MS = 20_000;

export interface AnswersMeasured {
  /** By path: median and 95th of a hundred, each over that of a bare service that sends the same bytes. */
  readonly ratios: ReadonlyMap<string, { readonly p50: number; readonly p95: number; readonly ms: number }>;
  readonly peakMegabytes: number;
  /** Milliseconds until everything was derived for the first time. */
  readonly firstMs: number;
}

function at(values: readonly number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? NaN;
}

async function took(url: string, key: string): Promise<{ ms: number; body: string }> {
  const begun = performance.now();
  const response = await fetch(url, { headers: { authorization: `Bearer ${key}` } });
  const body = await response.text();
  if (!response.ok) throw new Error(`${url}: ${body}`);
  return { ms: performance.now() - begun, body };
}

/** The service's main answers over an agency of some size, turn by turn with a bare service that sends the same bytes. */
export async function measureAnswers(properties: number): Promise<AnswersMeasured> {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-bench-'));
  const config = join(folder, 'yardbadge.yaml');
  const engines = fileURLToPath(new URL('../engines/rehearsal', import.meta.url));
  writeFileSync(
    config,
    stringify({
      listen: { host: '127.0.0.1', port: 0 },
      data: './y.sqlite',
      keyFile: './y.key',
      engines,
      log: 'error',
    }),
  );
  await makeAgency(join(folder, 'y.sqlite'), properties);
  const { settings } = await loadSettings(config, {}, {});
  const key = await addPersonWithKeyHere(
    settings,
    { name: 'marit', role: 'lead', password: 'lantern-at-the-quay' },
    'bench',
  );
  const { child, url } = await startBuiltService({ config, env: {} } as never);
  const bodies = new Map<string, string>();
  const bare = Fastify();
  bare.get('/bare', (request, reply) =>
    reply.type('application/json').send(bodies.get((request.query as { path: string }).path)),
  );
  const bareUrl = await bare.listen({ host: '127.0.0.1', port: 0 });
  try {
    const firstMs = (await took(`${url}/api/v1/worklist?limit=1`, key)).ms;
    const ratios = new Map<string, { p50: number; p95: number; ms: number }>();
    for (const path of PATHS) {
      bodies.set(path, (await took(`${url}/api/v1${path}`, key)).body);
      const ours: number[] = [];
      const theirs: number[] = [];
      for (let time = 0; time < TIMES; time += 1) {
        ours.push((await took(`${url}/api/v1${path}`, key)).ms);
        theirs.push((await took(`${bareUrl}/bare?path=${encodeURIComponent(path)}`, key)).ms);
      }
      ratios.set(path, {
        p50: at(ours, 0.5) / at(theirs, 0.5),
        p95: at(ours, 0.95) / at(theirs, 0.95),
        ms: at(ours, 0.5),
      });
    }
    const until = performance.now() + STORM_MS;
    const storm = async (): Promise<void> => {
      for (let turn = 0; performance.now() < until; turn += 1)
        await took(`${url}/api/v1${PATHS[turn % PATHS.length] ?? PATHS[0]}`, key);
    };
    await Promise.all(Array.from({ length: CLIENTS }, storm));
    const status = readFileSync(`/proc/${String(child.pid)}/status`, 'utf8');
    return { ratios, firstMs, peakMegabytes: Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024 };
  } finally {
    child.kill('SIGTERM');
    await new Promise((done) => child.once('exit', done));
    await bare.close();
    rmSync(folder, { recursive: true });
  }
}
