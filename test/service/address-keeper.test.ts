import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { differenceOf } from '../../src/core/sitemap/set/difference.js';
import { AddressKeeper, keptSetOf, tidyChunks } from '../../src/desk/sitemaps/address-keeper.js';
import { Gathering } from '../../src/core/sitemap/set/gathering.js';
import { packAll } from '../../src/readers/address-chunks.js';
import { Store } from '../../src/store/store.js';
import { ClientRow, PropertyRow } from '../../src/store/models/clients.js';
import { AddressChunkRow, ReadingSetRow } from '../../src/store/models/reading-sets.js';
import { ReadingRow, SitemapRow } from '../../src/store/models/sitemaps.js';
import { removed } from '../support/removed.js';

const page = (at: number) => `https://quay.example/berths/berth-${String(at)}`;

describe('addresses that are kept', () => {
  let store: Store;
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-'));
  const at = (day: number) => `2026-11-${String(day).padStart(2, '0')}T08:00:00.000Z`;

  /** Keeps one reading of a day: pages from … to, in files of 10,000. */
  async function keep(day: number, from: number, to: number, most = 100_000): Promise<string> {
    const keeper = await AddressKeeper.open(store, 's', most);
    const known = new Set(keeper.known);
    for (let file = from; file < to; file += 10_000) {
      const gathering = new Gathering();
      for (let nth = file; nth < Math.min(to, file + 10_000); nth += 1) gathering.push(page(nth));
      await keeper.take(packAll(gathering.cut(), known));
    }
    const id = `r${String(day)}`;
    await store.write(async (transaction) => {
      await ReadingRow.create(
        { id, sitemapId: 's', at: at(day), kind: 'urlset', addresses: to - from, children: 0, findings: [] },
        { transaction },
      );
      await keeper.settle(id, transaction);
    });
    return id;
  }
  const chunks = () => AddressChunkRow.count({ where: { sitemapId: 's' } });

  beforeAll(async () => {
    store = await Store.open(join(folder, 'yardbadge.sqlite'));
    await store.write(async (transaction) => {
      await ClientRow.create(
        { id: 'c', handle: 'c', name: 'c', audience: [], createdAt: at(1) },
        { transaction },
      );
      await PropertyRow.create(
        { id: 'p', clientId: 'c', handle: 'p', address: page(0), host: 'quay.example', createdAt: at(1) },
        { transaction },
      );
      await SitemapRow.create({ id: 's', propertyId: 'p', url: page(0), createdAt: at(1) }, { transaction });
    });
  });
  afterAll(async () => {
    await store.close();
    await removed(folder);
  });

  it('cost something once, and hardly anything again', async () => {
    await keep(1, 0, 30_000);
    const first = await chunks();
    expect(first).toBeGreaterThan(15);
    const bytes = (await AddressChunkRow.findAll()).reduce((sum, { packed }) => sum + packed.length, 0);
    expect(bytes).toBeLessThan(300_000);
    await keep(2, 0, 30_000);
    expect(await chunks()).toBe(first);
    await keep(3, 0, 30_004);
    expect((await chunks()) - first).toBeLessThanOrEqual(3);
  });

  it('can be told apart between any two readings', async () => {
    const [before, after] = await Promise.all([keptSetOf('s', 'r1'), keptSetOf('s', 'r3')]);
    if (!before || !after) throw new Error('both were kept');
    expect(await differenceOf(before, after, 10)).toMatchObject({
      added: 4,
      removed: 0,
      addedFirst: [30_000, 30_001, 30_002, 30_003].map(page),
    });
  });

  it('are none of a sitemap that has too many', async () => {
    const before = await chunks();
    const id = await keep(4, 0, 50_000, 40_000);
    expect(await keptSetOf('s', id)).toBeNull();
    await store.write((transaction) => tidyChunks('s', transaction));
    expect(await chunks()).toBe(before);
  });

  it('go with the readings that held them, and leave what others hold', async () => {
    await store.write(async (transaction) => {
      await ReadingSetRow.destroy({ where: { readingId: 'r3' }, transaction });
      await ReadingRow.destroy({ where: { id: 'r3' }, transaction });
      await tidyChunks('s', transaction);
    });
    const left = await keptSetOf('s', 'r1');
    expect(await chunks()).toBe(left?.chunks.length);
    const all = await Promise.all((left?.chunks ?? []).map((chunk) => left?.open(chunk)));
    expect(all.flat()).toHaveLength(30_000);
  });
});
