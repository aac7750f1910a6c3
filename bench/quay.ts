import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { startNameServer } from '../src/rehearsal/names/server.js';
import { newWorld, site } from '../src/rehearsal/scenario.js';
import { machineClock } from '../src/net/time/machine-clock.js';

/** A process of its own that answers for many websites and their names, so that what is measured has a processor to itself. */
const HOSTS = 200;

const page = Buffer.from(
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Quay</title><meta name="veldrane-mooring" content="84da61f31aa466b6b1022a45"></head><body>${'<div class="berth"><h2>Berth</h2><p>Free from noon. <a href="/berths">All berths</a></p></div>\n'.repeat(280)}</body></html>`,
);
const server = createServer((_request, response) => {
  response
    .writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'content-length': page.length })
    .end(page);
});
const hosts = Array.from({ length: HOSTS }, (_, at) => `quay-${String(at)}.example`);
const state = newWorld(
  machineClock.now(),
  hosts.map((host) => site(host, '', '')),
);
const names = await startNameServer({ state, ...machineClock }, 'resolver', 0);
server.listen(0, '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  process.send?.({ http: port, dns: names.port, hosts });
});
process.once('disconnect', () => {
  process.exit();
});
