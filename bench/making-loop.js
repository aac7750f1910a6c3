import { EventEmitter } from 'node:events';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import process from 'node:process';
import { parse } from 'parse5';
import { Agent, request } from 'undici';
import { USUAL_RECIPE } from '../dist/core/sitemap/make/recipe.js';
import { writeVersion } from '../dist/desk/making/files.js';
import { makeWork } from '../dist/desk/renewals/renewal.js';
import { Net } from '../dist/net/net.js';
import { DEFAULT_BOUNDS } from '../dist/net/settings.js';
import { machineClock } from '../dist/net/time/machine-clock.js';
import { closeReaders } from '../dist/readers/readers.js';
import { sweepStart } from '../dist/service/start-swept.js';
import { Store } from '../dist/store/store.js';
import { ClientRow, PropertyRow } from '../dist/store/models/clients.js';
import { RecipeRow } from '../dist/store/models/making.js';

/**
 * A process of its own that makes a sitemap as the installed service does, turn by turn with a bare loop that fetches the same pages,
 * two at once as we do, parses them and follows their links.
 */
const [http = '', dns = '', url = '', turns = '1', bareToo = 'yes', folder = ''] = process.argv.slice(2);
const AT_ONCE = 2;
const net = new Net({
  resolver: `127.0.0.1:${dns}`,
  allow: ['192.0.2.0/24'],
  connect: [{ from: '*:80', to: `127.0.0.1:${http}` }],
  ca: null,
  agent: 'bench',
  bounds: DEFAULT_BOUNDS,
});
const store = await Store.open(join(folder, 'yardbadge.sqlite'));
const at = machineClock.now().toISOString();
await store.write(async (transaction) => {
  await ClientRow.create({ id: 'c', handle: 'c', name: 'c', audience: [], createdAt: at }, { transaction });
  await PropertyRow.create(
    { id: 'p', clientId: 'c', handle: 'p', address: url, host: 'quay.example', createdAt: at },
    { transaction },
  );
  const recipe = { ...USUAL_RECIPE, reach: { ...USUAL_RECIPE.reach, pages: 1_000_000, minutes: 1_440 } };
  await RecipeRow.create({ propertyId: 'p', recipe, mostFall: 20, updatedAt: at }, { transaction });
});
const desk = {
  store,
  net,
  clock: machineClock,
  book: { profiles: new Map() },
  sitemaps: { atOnce: 8, namespaces: { images: 'urn:i', videos: 'urn:v', news: 'urn:n' } },
  events: new EventEmitter(),
};

function linksIn(node, found) {
  if (node.tagName === 'a') found.push(node.attrs.find(({ name }) => name === 'href')?.value ?? '');
  for (const child of node.childNodes ?? []) linksIn(child, found);
  return found;
}

/** @returns pages a second */
async function bare() {
  const agent = new Agent({ connections: AT_ONCE });
  const origin = `http://127.0.0.1:${http}`;
  const known = new Set(['/']);
  const waiting = ['/'];
  let underWay = 0;
  const started = performance.now();
  await new Promise((done) => {
    const more = () => {
      while (underWay < AT_ONCE && waiting.length > 0) {
        underWay += 1;
        void look(waiting.shift()).then(() => {
          underWay -= 1;
          more();
        });
      }
      if (underWay === 0) done();
    };
    const look = async (path) => {
      const { body } = await request(origin + path, { dispatcher: agent });
      for (const href of linksIn(parse(await body.text()), [])) {
        const link = new URL(href, origin + path);
        if (link.origin !== origin || known.has(link.pathname)) continue;
        known.add(link.pathname);
        waiting.push(link.pathname);
      }
    };
    more();
  });
  const rate = (known.size * 1000) / (performance.now() - started);
  await agent.close();
  return { pages: known.size, rate };
}

let nth = 0;
async function ours() {
  const started = performance.now();
  nth += 1;
  await makeWork.run(desk, {
    itemId: `making-${String(nth)}`,
    again: false,
    actor: { personId: null },
    input: { propertyId: 'p', isWhole: false },
  });
  const [{ pages }] = await store.select('SELECT count(*) AS pages FROM made_pages WHERE makingId = $id', {
    id: `making-${String(nth)}`,
  });
  return { pages, rate: (pages * 1000) / (performance.now() - started) };
}

await sweepStart();
const measured = [];
for (let turn = 0; turn < Number(turns); turn += 1)
  measured.push({ bare: bareToo === 'yes' ? await bare() : null, ours: await ours() });
const afterGathering = process.resourceUsage().maxRSS / 1024;
const property = await PropertyRow.findByPk('p');
const started = performance.now();
const version = await writeVersion(desk, { personId: null }, property, { id: 'v', isAllowed: true });
const writingMs = performance.now() - started;
await store.close();
await Promise.all([net.close(), closeReaders()]);
process.send({
  turns: measured,
  addresses: version.addresses,
  findings: version.findings.map(({ code }) => code),
  writingMs,
  gatheringMegabytes: afterGathering,
  peakMegabytes: process.resourceUsage().maxRSS / 1024,
});
process.disconnect();
