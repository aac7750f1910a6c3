import { performance } from 'node:perf_hooks';
import process from 'node:process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { listContents, outlineSitemap } from '../dist/desk/contents/contents.js';
import { contentsWork } from '../dist/desk/contents/contents-work.js';
import { closeShelves, shelfFile, shelfOf } from '../dist/desk/contents/shelves.js';
import { Net } from '../dist/net/net.js';
import { machineClock } from '../dist/net/time/machine-clock.js';
import { DEFAULT_BOUNDS } from '../dist/net/settings.js';
import { closeReaders } from '../dist/readers/readers.js';
import { Store } from '../dist/store/store.js';
import { ContentsRow } from '../dist/store/models/contents.js';
import { PropertyRow, ClientRow } from '../dist/store/models/clients.js';
import { SitemapRow } from '../dist/store/models/sitemaps.js';

/** A process of its own that looks inside one large index as the installed service does, and turns its pages. */
const [http = '', dns = '', url = ''] = process.argv.slice(2);
const folder = mkdtempSync(join(tmpdir(), 'yardbadge-bench-'));
const net = new Net({
  resolver: `127.0.0.1:${dns}`,
  allow: ['192.0.2.0/24'],
  connect: [{ from: '*:80', to: `127.0.0.1:${http}` }],
  ca: null,
  agent: 'bench',
  bounds: { ...DEFAULT_BOUNDS, hopMs: 600_000 },
});
const store = await Store.open(join(folder, 'yardbadge.sqlite'));
const at = machineClock.now().toISOString();
await store.write(async (transaction) => {
  await ClientRow.create({ id: 'c', handle: 'c', name: 'c', audience: [], createdAt: at }, { transaction });
  await PropertyRow.create(
    { id: 'p', clientId: 'c', handle: 'p', address: url, host: 'quay.example', createdAt: at },
    { transaction },
  );
  await SitemapRow.create({ id: 's', propertyId: 'p', url, createdAt: at }, { transaction });
});
const desk = { store, net, clock: machineClock, book: { profiles: new Map() } };
const timed = async (work) => {
  const begun = performance.now();
  await work();
  return performance.now() - begun;
};
const seconds = (await timed(() => contentsWork.run(desk, { input: { sitemapId: 's' } }))) / 1000;
const { id, entries } = await ContentsRow.findByPk('s');
const shelf = await shelfOf(desk, id);
/** The bare baseline: one pass over all rows. */
const pass = () => shelf.select("SELECT count(*) AS count FROM entries WHERE address LIKE '%not there%'");
const list = (asked) => () => listContents(desk, url, { limit: 100, ...asked });
const asked = {
  'the first page': list({}),
  'a page in the middle': list({ after: `${id}_${String(10 * 100_000 + 25_000)}` }),
  'letters that are rare': list({ match: `berth-${String(entries - 7)}` }),
  'letters that are not there': list({ match: 'lighthouse' }),
  'a folder': list({ folder: 'http://quay.example/berths/row-500/' }),
  'all folders, by address': list({ folder: 'http://quay.example/berths/', order: 'address' }),
  'the newest': list({ order: 'newest' }),
  'of one day': list({ since: '2026-10-03', until: '2026-10-04' }),
  'with findings': list({ finding: 'any' }),
  'the folders': () => outlineSitemap(desk, url),
};
const ratios = {};
for (const [name, work] of Object.entries(asked)) {
  const turns = [];
  for (let turn = 0; turn < 3; turn += 1) turns.push((await timed(work)) / (await timed(pass)));
  // The first turn also counts, which the others do not.
  ratios[name] = Math.max(...turns);
}
const bare = await timed(pass);
process.send({
  entries,
  seconds,
  passMs: bare,
  ratios,
  megabytes: statSync(shelfFile(desk, id)).size / 1e6,
  peakMegabytes: process.resourceUsage().maxRSS / 1024,
});
await closeShelves();
await store.close();
await Promise.all([net.close(), closeReaders()]);
rmSync(folder, { recursive: true, force: true });
