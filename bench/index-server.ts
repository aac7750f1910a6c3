import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { NAMESPACE } from '../src/core/sitemap/read/limits.js';
import { startNameServer } from '../src/rehearsal/names/server.js';
import { newWorld, site } from '../src/rehearsal/scenario.js';
import { machineClock } from '../src/net/time/machine-clock.js';

/** A process of its own with one website: an index of many full sitemaps, each made as it is sent. */
const CHILDREN = Number(process.argv[2] ?? '200');
const ADDRESSES = 50_000;
const HOST = 'quay.example';
const AT_ONCE = 500;

function* child(nth: number): Generator<string> {
  yield `<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="${NAMESPACE}">\n`;
  for (let from = 0; from < ADDRESSES; from += AT_ONCE)
    yield Array.from({ length: AT_ONCE }, (_, at) => {
      const berth = nth * ADDRESSES + from + at;
      const day = String(1 + (berth % 28)).padStart(2, '0');
      return `<url><loc>http://${HOST}/berths/row-${String(berth % 977)}/berth-${String(berth)}</loc><lastmod>2026-10-${day}</lastmod></url>\n`;
    }).join('');
  yield '</urlset>\n';
}

const index = `<sitemapindex xmlns="${NAMESPACE}">${Array.from({ length: CHILDREN }, (_, nth) => `<sitemap><loc>http://${HOST}/map-${String(nth)}.xml</loc></sitemap>`).join('\n')}</sitemapindex>`;
const server = createServer((request, response) => {
  const nth = /^\/map-(\d+)\.xml$/.exec(request.url ?? '')?.[1];
  if (nth === undefined) {
    response.writeHead(request.url === '/sitemap.xml' ? 200 : 404).end(index);
    return;
  }
  const pieces = child(Number(nth));
  const more = () => {
    for (;;) {
      const { value, done } = pieces.next();
      if (done === true) return void response.end();
      if (!response.write(value)) return void response.once('drain', more);
    }
  };
  response.writeHead(200, { 'content-type': 'application/xml' });
  more();
});
const names = await startNameServer(
  { state: newWorld(machineClock.now(), [site(HOST, '', '')]), ...machineClock },
  'resolver',
  0,
);
server.listen(0, '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  process.send?.({ http: port, dns: names.port, url: `http://${HOST}/sitemap.xml` });
});
process.once('disconnect', () => {
  process.exit();
});
