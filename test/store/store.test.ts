import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ClientRow } from '../../src/store/models/clients.js';
import { Store } from '../../src/store/store.js';

describe('the records', () => {
  let folder: string;
  let store: Store;
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'yardbadge-store-'));
    store = await Store.open(join(folder, 'records.sqlite'));
  });
  afterEach(async () => {
    await store.close();
    rmSync(folder, { recursive: true, force: true });
  });

  const client = (handle: string) => ({
    id: handle,
    handle,
    name: handle,
    audience: [],
    createdAt: '2026-11-25T08:00:00.000Z',
  });
  const add = (handle: string) =>
    store.write((transaction) => ClientRow.create(client(handle), { transaction }));
  /** The connections that Sequelize holds open, by what they are for. */
  const open = () =>
    Object.keys(
      (store.sequelize as unknown as { connectionManager: { connections: object } }).connectionManager
        .connections,
    );

  it('are written by one connection that is kept from one transaction to the next', async () => {
    const opened: unknown[] = [];
    store.sequelize.addHook('afterConnect', (connection: unknown) => {
      opened.push(connection);
    });
    await Promise.all(['a', 'b', 'c', 'd'].map(add));
    expect(await ClientRow.count()).toBe(4);
    expect(opened.length).toBeLessThanOrEqual(1);
    expect(open()).toEqual(['default']);
  });

  it('lose nothing, and go on, after a transaction that failed', async () => {
    await add('a');
    await expect(add('a')).rejects.toThrow();
    await expect(
      store.write(async (transaction) => {
        await ClientRow.create(client('b'), { transaction });
        throw new Error('changed my mind');
      }),
    ).rejects.toThrow('changed my mind');
    await add('c');
    expect((await ClientRow.findAll({ order: ['handle'] })).map(({ handle }) => handle)).toEqual(['a', 'c']);
  });

  it('are seen by readers while somebody writes, as they were before', async () => {
    await add('a');
    await store.write(async (transaction) => {
      await ClientRow.create(client('b'), { transaction });
      expect(await ClientRow.count()).toBe(1);
    });
    expect(await ClientRow.count()).toBe(2);
  });

  it('are opened by one at a time in a process', async () => {
    await expect(Store.open(join(folder, 'others.sqlite'))).rejects.toThrow('open already');
  });
});
