import { performance } from 'node:perf_hooks';
import process from 'node:process';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { parse } from 'parse5';
import { Agent, request } from 'undici';
import { probe } from '../dist/desk/engine-book/probe.js';
import { Net } from '../dist/net/net.js';
import { DEFAULT_BOUNDS } from '../dist/net/settings.js';
import { machineClock } from '../dist/net/time/machine-clock.js';
import { closeReaders } from '../dist/readers/readers.js';

/** A process of its own that checks as the installed service does, turn by turn with a bare loop that fetches the same page and parses it. */
const AT_ONCE = 16;
setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc');

/** Does `work` so many times, so many at once. @returns how many a second */
async function rate(times, work) {
  let next = 0;
  const started = performance.now();
  const lane = async () => {
    while (next < times) await work(next++);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
  return (times * 1000) / (performance.now() - started);
}

/** Bytes that are still in use once everything that can be is thrown away. */
function liveBytes() {
  collect();
  collect();
  const { heapUsed, external } = process.memoryUsage();
  return heapUsed + external;
}

function median(values) {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

const { http, dns, placements } = await new Promise((done) => process.once('message', done));
const agent = new Agent({ connections: 4 });
const net = new Net({
  resolver: `127.0.0.1:${String(dns)}`,
  allow: ['192.0.2.0/24'],
  connect: [{ from: '*:80', to: `127.0.0.1:${String(http)}` }],
  ca: null,
  agent: 'bench',
  bounds: DEFAULT_BOUNDS,
});
const bare = async () => {
  const { body } = await request(`http://127.0.0.1:${String(http)}/`, { dispatcher: agent });
  parse(await body.text());
};
const ours = async (at) => {
  const { judgement } = await probe(net, machineClock, placements[at % placements.length]);
  if (judgement.forecast !== 'accept') throw new Error(JSON.stringify(judgement.findings));
};
await rate(300, bare);
await rate(300, ours);
const turns = [];
for (let turn = 0; turn < 5; turn += 1)
  turns.push({ bare: await rate(600, bare), ours: await rate(600, ours) });
await rate(1_000, ours);
const early = liveBytes();
await rate(9_000, ours);
const late = liveBytes();
await Promise.all([net.close(), agent.close(), closeReaders()]);
process.send({
  speed: median(turns.map((one) => one.ours / one.bare)),
  checksASecond: median(turns.map((one) => one.ours)),
  memory: late / early,
});
process.disconnect();
