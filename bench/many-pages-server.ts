import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { startNameServer } from '../src/rehearsal/names/server.js';
import { newWorld, site } from '../src/rehearsal/scenario.js';
import { sendManyPages } from '../src/rehearsal/sites/many-pages.js';
import { machineClock } from '../src/net/time/machine-clock.js';

/** A process of its own with one website of many pages. Usage: many-pages-server.ts COUNT */
const HOST = 'quay.example';
const pages = { count: Number(process.argv[2] ?? '5000'), traps: false };
const server = createServer((request, response) => {
  if (!sendManyPages(pages, { host: HOST, head: [], scheme: 'http' }, machineClock.now(), request, response))
    response.writeHead(404).end();
});
const names = await startNameServer(
  { state: newWorld(machineClock.now(), [site(HOST, '', '')]), ...machineClock },
  'resolver',
  0,
);
server.listen(0, '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  process.send?.({ http: port, dns: names.port, url: `http://${HOST}/` });
});
process.once('disconnect', () => {
  process.exit();
});
