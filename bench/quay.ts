import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { startNameServer } from '../src/rehearsal/names/server.js';
import { newWorld, site } from '../src/rehearsal/scenario.js';
import { machineClock } from '../src/net/time/machine-clock.js';
import { tokenAt } from './agency-records.js';

/**
 * A process of its own that answers for many websites and their names, so that what is measured has a processor to itself.
 * Usage: quay.ts [HOSTS]: with a number, it is the websites of so many properties of `makeAgency`.
 */
const PROPERTIES = Number(process.argv[2] ?? '0');
const HOSTS = 200;
const BODY =
  '<div class="berth"><h2>Berth</h2><p>Free from noon. <a href="/berths">All berths</a></p></div>\n'.repeat(
    280,
  );
const META = {
  veldrane: 'veldrane-mooring',
  ostrime: 'ostrime-berth',
  sundrel: 'sundrel-tally',
  brindle: 'brindle-plank',
  house: 'yardbadge-proof',
};

function page(tags: string): Buffer {
  return Buffer.from(
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Quay</title>${tags}</head><body>${BODY}</body></html>`,
  );
}

function tagsOf(property: number): string {
  return Object.entries(META)
    .map(([engine, name]) => `<meta name="${name}" content="${tokenAt(property, engine)}">`)
    .join('');
}

const only = page('<meta name="veldrane-mooring" content="84da61f31aa466b6b1022a45">');
const server = createServer((request, response) => {
  const property = /^www\.quay-(\d+)\./u.exec(request.headers.host ?? '')?.[1];
  const body = property === undefined ? only : page(tagsOf(Number(property)));
  response
    .writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'content-length': body.length })
    .end(body);
});
const hosts =
  PROPERTIES > 0
    ? Array.from({ length: PROPERTIES }, (_, at) => `www.quay-${String(at)}.example`)
    : Array.from({ length: HOSTS }, (_, at) => `quay-${String(at)}.example`);
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
