import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createClient, type Client } from '../../src/client/client.js';
import { site } from '../../src/rehearsal/scenario.js';
import { ANY_PORTS, startWorld, type World } from '../../src/rehearsal/world.js';
import { addPersonWithKeyHere } from '../../src/service/persons.js';
import { loadSettings } from '../../src/service/settings/load.js';
import { newId } from '../../src/store/ids.js';
import { ClientRow, PropertyRow } from '../../src/store/models/clients.js';
import { Store } from '../../src/store/store.js';
import { startBuiltService } from '../support/built.js';

const MANY = 1000;

/** A thousand properties are looked at in one job, and the service is killed in the midst of it. */
describe('the variants of a thousand properties', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-many-'));
  let world: World;
  let child: ChildProcess;
  let client: Client;
  let key: string;

  const start = async () => {
    const started = await startBuiltService(world);
    child = started.child;
    client = createClient({ url: started.url, key });
  };

  beforeAll(async () => {
    world = await startWorld(folder, ANY_PORTS);
    const { settings } = await loadSettings(world.config, {}, {});
    key = await addPersonWithKeyHere(
      settings,
      { name: 'marit', role: 'lead', password: 'lantern-at-the-quay' },
      'test',
    );
    const addresses = Array.from({ length: MANY }, (_, at) => `mooring-${String(at)}.example`);
    world.file.state.sites.push(
      ...addresses.map((host) => site(host, 'Moorings', 'Every berth has its own page.')),
    );
    // As many rows as that are imported, not typed: they go into the records directly.
    const store = await Store.open(settings.data);
    const createdAt = new Date().toISOString();
    const clientId = newId();
    await store.write(async (transaction) => {
      await ClientRow.create(
        { id: clientId, handle: 'moorings', name: 'Moorings', audience: [], createdAt },
        { transaction },
      );
      await PropertyRow.bulkCreate(
        addresses.map((host, at) => ({
          id: newId(),
          clientId,
          handle: `berth-${String(at)}`,
          address: `https://${host}/`,
          host,
          createdAt,
        })),
        { transaction },
      );
    });
    await store.close();
    await start();
  }, 60_000);
  afterAll(async () => {
    child.kill('SIGTERM');
    await world.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it(
    'are looked at in one job with progress, which a kill -9 does not lose',
    { timeout: 240_000 },
    async () => {
      const { id, total } = await client.lookAtVariants({ body: { all: true } });
      expect(total).toBe(MANY);
      const finished = async () => (await client.showJob({ params: { id } })).finished;
      await expect.poll(finished, { timeout: 120_000, interval: 200 }).toBeGreaterThan(200);
      child.kill('SIGKILL');
      await new Promise((done) => child.once('exit', done));
      await start();
      const taken = await finished();
      expect(taken).toBeGreaterThan(200);
      const asked = new Set<string>();
      world.listeners.add((url) => asked.add(url));
      const job = await client.finished({ id });
      expect(job.finished).toBe(MANY);
      expect(job.items.every(({ state }) => state === 'done')).toBe(true);
      // What was done before the kill is not done again: the home pages of the first ones are left alone.
      expect([...asked].filter((url) => url === 'https://mooring-0.example/')).toEqual([]);
      const { seenAt, items } = await client.showVariants({ params: { property: 'berth-999' } });
      expect(seenAt).not.toBeNull();
      expect(items).toHaveLength(4);
    },
  );
});
