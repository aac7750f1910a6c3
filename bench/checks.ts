import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { parse } from 'parse5';
import { Agent, request } from 'undici';
import { parseTarget } from '../src/core/address/reach.js';
import { placementOf, type Placement } from '../src/core/badge/placement.js';
import { lookAt } from '../src/desk/checks/look.js';
import { Net } from '../src/net/net.js';
import { DEFAULT_BOUNDS } from '../src/net/settings.js';
import { veldrane } from '../test/support/profiles.js';
import { machineClock } from '../src/net/time/machine-clock.js';
import { startQuay } from './start-quay.js';

const AT_ONCE = 16;
const TOKEN = '84da61f31aa466b6b1022a45';

export interface ChecksMeasured {
  /** Checks a second over bare fetches and parses a second. */
  readonly speed: number;
  readonly checksASecond: number;
  /** Live memory after 10,000 checks over that after 1,000. */
  readonly memory: number;
}

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

/** Does `work` so many times, so many at once. @returns how many a second */
async function rate(times: number, work: (at: number) => Promise<unknown>): Promise<number> {
  let next = 0;
  const started = performance.now();
  const lane = async () => {
    while (next < times) await work(next++);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
  return (times * 1000) / (performance.now() - started);
}

/** Megabytes that are still in use once everything that can be is thrown away. */
function liveBytes(): number {
  collect();
  collect();
  const { heapUsed, external } = process.memoryUsage();
  return heapUsed + external;
}

/** Our check of a meta tag, turn by turn with a bare loop that fetches the same page and parses it. */
export async function measureChecks(): Promise<ChecksMeasured> {
  const { quay, end } = await startQuay();
  const agent = new Agent({ connections: 4 });
  const net = new Net({
    resolver: `127.0.0.1:${String(quay.dns)}`,
    allow: ['192.0.2.0/24'],
    connect: [{ from: '*:80', to: `127.0.0.1:${String(quay.http)}` }],
    ca: null,
    agent: 'bench',
    bounds: DEFAULT_BOUNDS,
  });
  const placements = quay.hosts.flatMap((host): Placement[] => {
    const found = placementOf(veldrane, parseTarget('address', `http://${host}/`), 'meta', TOKEN);
    return found ? [found] : [];
  });
  const bare = async (): Promise<void> => {
    const { body } = await request(`http://127.0.0.1:${String(quay.http)}/`, { dispatcher: agent });
    parse(await body.text());
  };
  const clock = machineClock;
  const ours = async (at: number): Promise<void> => {
    const placement = placements[at % placements.length];
    if (!placement) return;
    const { judgement } = await lookAt(net, clock, placement);
    if (judgement.forecast !== 'accept') throw new Error(JSON.stringify(judgement.findings));
  };
  await rate(300, bare);
  await rate(300, ours);
  const turns: { bare: number; ours: number }[] = [];
  for (let turn = 0; turn < 5; turn += 1)
    turns.push({ bare: await rate(600, bare), ours: await rate(600, ours) });
  await rate(1_000, ours);
  const early = liveBytes();
  await rate(9_000, ours);
  const late = liveBytes();
  await Promise.all([net.close(), agent.close()]);
  end();
  const median = (values: readonly number[]) =>
    [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;
  return {
    speed: median(turns.map((one) => one.ours / one.bare)),
    checksASecond: median(turns.map((one) => one.ours)),
    memory: late / early,
  };
}
