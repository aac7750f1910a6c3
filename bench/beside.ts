import { setTimeout as sleep } from 'node:timers/promises';
import { makeAgency } from './agency-records.js';
import { at, PATHS, took, withService, type Served } from './agency.js';
import { startQuay } from './start-quay.js';

/** So many properties have some ten thousand placements. */
const PROPERTIES = 2_222;
const A_SECOND = 100;
const SECONDS = 30;
const SINGLE = 9;

export interface BesideMeasured {
  readonly placements: number;
  /** Of requests at a steady hundred a second while everything is checked. */
  readonly failed: number;
  readonly p50: number;
  readonly p99: number;
  /** A person's single check beside it, over what it takes alone; medians. */
  readonly single: number;
  /** Placements checked a second, all the while. */
  readonly checksASecond: number;
}

interface Begun {
  readonly id: string;
  readonly total: number;
  readonly finished: number;
}

async function told<T>({ url, key }: Served, path: string, body?: object): Promise<T> {
  const headers = { authorization: `Bearer ${key}`, 'content-type': 'application/json' };
  const response = await fetch(
    url + path,
    body ? { method: 'POST', headers, body: JSON.stringify(body) } : { headers },
  );
  const text = await response.text();
  if (!response.ok) throw new Error(`${path}: ${text}`);
  return JSON.parse(text) as T;
}

/** Milliseconds until one placement is checked, by one who waits for it. */
async function singleCheck(served: Served, nth: number): Promise<number> {
  const begun = performance.now();
  let job = await told<Begun & { state: string }>(served, '/checks', {
    enrolments: [`quay-${String(1_000 + nth)}@veldrane:address`],
  });
  while (job.state !== 'done') {
    await sleep(5);
    job = await told(served, `/jobs/${job.id}`);
  }
  return performance.now() - begun;
}

async function singles(served: Served): Promise<number> {
  const all: number[] = [];
  for (let nth = 0; nth < SINGLE; nth += 1) {
    all.push(await singleCheck(served, nth));
    await sleep(200);
  }
  return at(all, 0.5);
}

/** A request each hundredth of a second, whether or not those before are answered. */
async function steadily({ url, key }: Served): Promise<{ times: number[]; failed: number }> {
  const times: number[] = [];
  let failed = 0;
  const under: Promise<void>[] = [];
  const begun = performance.now();
  for (let nth = 0; nth < A_SECOND * SECONDS; nth += 1) {
    await sleep(Math.max(0, begun + (nth * 1000) / A_SECOND - performance.now()));
    const asked = took(url + (PATHS[nth % PATHS.length] ?? PATHS[0]), key).then(
      ({ ms }) => void times.push(ms),
      () => void (failed += 1),
    );
    under.push(asked);
  }
  await Promise.all(under);
  return { times, failed };
}

/** What others have of the service while one person has ten thousand placements checked. */
export async function measureBeside(): Promise<BesideMeasured> {
  const { quay, end } = await startQuay(PROPERTIES);
  const net = {
    resolver: `127.0.0.1:${String(quay.dns)}`,
    allow: ['192.0.2.0/24'],
    connect: [{ from: '*:80', to: `127.0.0.1:${String(quay.http)}` }],
  };
  try {
    return await withService((file) => makeAgency(file, PROPERTIES, { scheme: 'http' }), besideASweep, net);
  } finally {
    end();
  }
}

async function besideASweep(served: Served): Promise<BesideMeasured> {
  await took(`${served.url}/worklist?limit=1`, served.key);
  await singles(served);
  const alone = await singles(served);
  const sweep = await told<Begun>(served, '/checks', { all: true });
  const begun = performance.now();
  await sleep(1_000);
  const beside = await singles(served);
  const { times, failed } = await steadily(served);
  const { finished } = await told<Begun>(served, `/jobs/${sweep.id}?limit=1`);
  if (finished >= sweep.total) throw new Error('the sweep was over before the requests were');
  return {
    placements: sweep.total,
    failed,
    p50: at(times, 0.5),
    p99: at(times, 0.99),
    single: beside / alone,
    checksASecond: (finished * 1000) / (performance.now() - begun),
  };
}
