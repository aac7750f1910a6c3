import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { site } from '../../src/rehearsal/scenario.js';
import { newId } from '../../src/store/ids.js';
import { ClientRow, PropertyRow } from '../../src/store/models/clients.js';
import { Store } from '../../src/store/store.js';
import { Killable } from '../support/killable.js';
import { STAGE_TIME } from '../support/time.js';

const MANY = 300;

/** A thousand properties are looked at in one job, and the service is killed in the midst of it. */
describe('the variants of a thousand properties', () => {
  let service: Killable;

  beforeAll(async () => {
    service = await Killable.open();
    const addresses = Array.from({ length: MANY }, (_, at) => `mooring-${String(at)}.example`);
    service.world.file.state.sites.push(
      ...addresses.map((host) => site(host, 'Moorings', 'Every berth has its own page.')),
    );
    // As many rows as that are imported, not typed: they go into the records directly.
    const store = await Store.open(service.data);
    const createdAt = STAGE_TIME.toISOString();
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
    await service.start();
  });
  afterAll(() => service.close());

  it(
    'are looked at in one job with progress, which a kill -9 does not lose',
    { timeout: 240_000 },
    async () => {
      const { id, total } = await service.client.lookAtVariants({ body: { all: true } });
      expect(total).toBe(MANY);
      const finished = async () => (await service.client.showJob({ params: { id } })).finished;
      await expect.poll(finished, { timeout: 120_000, interval: 200 }).toBeGreaterThan(200);
      await service.kill();
      await service.start();
      const taken = await finished();
      expect(taken).toBeGreaterThan(200);
      const asked = new Set<string>();
      service.world.listeners.add((url) => asked.add(url));
      const job = await service.client.finished({ id });
      expect(job.finished).toBe(MANY);
      expect(job.items.every(({ state }) => state === 'done')).toBe(true);
      // What was done before the kill is not done again: the home pages of the first ones are left alone.
      expect([...asked].filter((url) => url === 'https://mooring-0.example/')).toEqual([]);
      const { seenAt, items } = await service.client.showVariants({ params: { property: 'berth-299' } });
      expect(seenAt).not.toBeNull();
      expect(items).toHaveLength(4);
    },
  );
});
