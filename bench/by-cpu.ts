import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { withService, type Served } from './agency.js';
import { makeAgency } from './agency-records.js';
import { said, start } from './children.js';

/** Pages that people open all day: lists, and what belongs to one property. */
export const PAGES_BY_CPU = [
  '/yard?limit=50',
  '/worklist?limit=50',
  '/sitemaps?limit=50',
  '/properties?limit=50',
  '/clients?limit=50',
  '/journal?limit=50',
  '/enrolments?property=quay-7',
  '/properties/quay-7/variants',
  '/sitemaps?property=quay-7',
  '/session',
] as const;

const CONNECTIONS = 4;
const TIMES = 400;
/** Answers before anything counts: what runs for the first times is still being compiled. */
const WARM = 200;
/** Of a process's times in /proc, which Linux counts in hundredths of a second (`USER_HZ`). */
const TICK_MS = 10;

export interface ByCpu {
  /** Milliseconds of work for one answer, in all threads of the process. */
  readonly ms: number;
  /** Over those of a bare service that sends the same bytes. */
  readonly ratio: number;
  readonly kilobytes: number;
}

/** What each page costs by the processor's time, beside a bare service: a client's clock would hide it. The watch rests meanwhile. */
export function measureByCpu(properties: number): Promise<ReadonlyMap<string, ByCpu>> {
  return withService((file) => makeAgency(file, properties), pagesByCpu, {}, { watch: { on: false } });
}

async function pagesByCpu({ url, key, pid }: Served): Promise<ReadonlyMap<string, ByCpu>> {
  const bare = start('bare-answers.js');
  try {
    const { url: bareUrl } = await said<{ url: string }>(bare);
    // Everything is derived before anything is measured.
    await bodyOf(`${url}/worklist?limit=1`, key);
    const found = new Map<string, ByCpu>();
    for (const path of PAGES_BY_CPU) {
      const body = await bodyOf(url + path, key);
      const known = once(bare, 'message');
      bare.send([path, body]);
      await known;
      const ours = await workFor(pid, () => bodyOf(url + path, key));
      const theirs = await workFor(bare.pid ?? 0, () =>
        bodyOf(`${bareUrl}/bare?path=${encodeURIComponent(path)}`, key),
      );
      found.set(path, { ms: ours, ratio: ours / theirs, kilobytes: Buffer.byteLength(body) / 1000 });
    }
    return found;
  } finally {
    bare.disconnect();
  }
}

async function bodyOf(url: string, key: string): Promise<string> {
  const response = await fetch(url, { headers: { authorization: `Bearer ${key}` } });
  const body = await response.text();
  if (!response.ok) throw new Error(`${url}: ${body}`);
  return body;
}

/** Milliseconds that a process works for one answer, on the average of many. */
async function workFor(pid: number, ask: () => Promise<unknown>): Promise<number> {
  await answers(WARM, ask);
  const before = worked(pid);
  await answers(TIMES, ask);
  return (worked(pid) - before) / TIMES;
}

async function answers(times: number, ask: () => Promise<unknown>): Promise<void> {
  let left = times;
  const one = async (): Promise<void> => {
    while (left > 0) {
      left -= 1;
      await ask();
    }
  };
  await Promise.all(Array.from({ length: CONNECTIONS }, one));
}

/** Milliseconds that a process has worked so far, in all its threads (proc(5), `utime` and `stime`). */
function worked(pid: number): number {
  const line = readFileSync(`/proc/${String(pid)}/stat`, 'utf8');
  const [utime, stime] = line
    .slice(line.lastIndexOf(')') + 2)
    .split(' ')
    .slice(11, 13);
  return (Number(utime) + Number(stime)) * TICK_MS;
}
