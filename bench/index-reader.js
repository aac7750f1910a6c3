import { performance } from 'node:perf_hooks';
import process from 'node:process';
import { statSync } from 'node:fs';
import { join } from 'node:path';
import { AddressKeeper } from '../dist/desk/sitemaps/address-keeper.js';
import { readWhole } from '../dist/desk/sitemaps/read-whole.js';
import { Net } from '../dist/net/net.js';
import { machineClock } from '../dist/net/time/machine-clock.js';
import { DEFAULT_BOUNDS } from '../dist/net/settings.js';
import { closeReaders } from '../dist/readers/readers.js';
import { sweepStart } from '../dist/service/start-swept.js';
import { Store } from '../dist/store/store.js';
import { PropertyRow, ClientRow } from '../dist/store/models/clients.js';
import { SitemapRow } from '../dist/store/models/sitemaps.js';

/** A process of its own that reads one large index as the installed service does, on records that are there, so that its memory is all its own. */
const [http = '', dns = '', url = '', most = '', folder = ''] = process.argv.slice(2);
const net = new Net({
  resolver: `127.0.0.1:${dns}`,
  allow: ['192.0.2.0/24'],
  connect: [{ from: '*:80', to: `127.0.0.1:${http}` }],
  ca: null,
  agent: 'bench',
  bounds: { ...DEFAULT_BOUNDS, hopMs: 600_000 },
});
const store = await Store.open(join(folder, 'yardbadge.sqlite'));
await sweepStart();
const now = machineClock.now();
const at = now.toISOString();
await store.write(async (transaction) => {
  await ClientRow.create({ id: 'c', handle: 'c', name: 'c', audience: [], createdAt: at }, { transaction });
  await PropertyRow.create(
    { id: 'p', clientId: 'c', handle: 'p', address: url, host: 'quay.example', createdAt: at },
    { transaction },
  );
  await SitemapRow.create({ id: 's', propertyId: 'p', url, createdAt: at }, { transaction });
});
const before = statSync(join(folder, 'yardbadge.sqlite')).size;
const keeper = await AddressKeeper.open(store, 's', Number(most));
const started = performance.now();
const { reading: whole } = await readWhole(net, url, {
  now,
  agents: [],
  sample: 50,
  seed: 1,
  keeps: Number(most),
  keeper,
});
const seconds = (performance.now() - started) / 1000;
await store.close();
await Promise.all([net.close(), closeReaders()]);
process.send({
  addresses: whole.addresses,
  findings: whole.findings.map(({ code }) => code),
  seconds,
  peakMegabytes: process.resourceUsage().maxRSS / 1024,
  keptAddresses: keeper.isFull ? Number(most) : whole.addresses,
  keptMegabytes: (statSync(join(folder, 'yardbadge.sqlite')).size - before) / 1e6,
});
