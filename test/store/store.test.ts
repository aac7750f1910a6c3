import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ClientRow } from '../../src/store/models/clients.js';
import { RecordsFault } from '../../src/store/records-fault.js';
import { Store } from '../../src/store/store.js';
import { removed } from '../support/removed.js';
import { selected } from '../support/statements.js';

describe('the records', () => {
  let folder: string;
  let store: Store;
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'yardbadge-store-'));
    store = await Store.open(join(folder, 'records.sqlite'));
  });
  afterEach(async () => {
    await store.close();
    await removed(folder);
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
  const connections = () =>
    (
      store.sequelize as unknown as {
        connectionManager: { connections: Record<string, NodeJS.EventEmitter> };
      }
    ).connectionManager.connections;
  /** The connections that Sequelize holds open, by what they are for. */
  const open = () => Object.keys(connections());

  it('say in words what is the matter where they are none, or may not be written', async () => {
    await store.close();
    const broken = join(folder, 'broken.sqlite');
    writeFileSync(broken, 'not the records of anybody, but as long as a page may be. '.repeat(100));
    await expect(Store.open(broken)).rejects.toThrow(RecordsFault);
    await expect(Store.open(broken)).rejects.toThrow('is no file of records');
    expect(readFileSync(broken, 'utf8')).toContain('not the records of anybody');
    store = await Store.open(join(folder, 'records.sqlite'));
  });

  it('are not opened where a newer version has written them, which is said', async () => {
    await store.write((transaction) =>
      store.run('INSERT INTO migrations (name) VALUES ($name)', { name: '9999-tomorrow' }, transaction),
    );
    await store.close();
    const file = join(folder, 'records.sqlite');
    await expect(Store.open(file)).rejects.toThrow(RecordsFault);
    await expect(Store.open(file)).rejects.toThrow(
      'written by a newer Yard Badge, which knows of “9999-tomorrow”',
    );
    store = await Store.open(join(folder, 'others.sqlite'));
  });

  it('are brought here as they were before all changes were put into one, and lose nothing', async () => {
    await store.close();
    const schemaOf = async (file: string) =>
      (await selected<{ sql: string }>(file, 'SELECT sql FROM sqlite_master WHERE sql IS NOT NULL')).map(
        ({ sql }) => sql.replace(/\s+/gu, ' '),
      );
    const file = join(folder, 'older.sqlite');
    const packed = readFileSync(new URL('records-of-0035.json.gz', import.meta.url));
    const older = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    for (const sql of JSON.parse(gunzipSync(packed).toString()) as string[]) await older.query(sql);
    const spoken = `'{"says":"1 put","carrying":{"place":"t","says":"sftp://files.example/","steps":[]}}'`;
    for (const sql of [
      `INSERT INTO journal (at, kind, says) VALUES ('2026-11-01T00:00:00Z', 'carry.place', 'A place.')`,
      `INSERT INTO jobs (id, kind, state, createdAt) VALUES ('j', 'carry', 'done', '2026-11-01T00:00:00Z')`,
      `INSERT INTO job_items (id, jobId, seq, subject, input, state, begun, result) VALUES ('i', 'j', 1, 't', '{}', 'done', 1, ${spoken})`,
    ])
      await older.query(sql);
    await older.close();
    store = await Store.open(file);
    expect(await ClientRow.findAll({ raw: true })).toMatchObject([{ handle: 'ferries' }]);
    await store.close();
    expect((await schemaOf(file)).sort()).toEqual((await schemaOf(join(folder, 'records.sqlite'))).sort());
    const names = await selected<{ name: string }>(file, 'SELECT name FROM migrations ORDER BY name');
    expect(names.map(({ name }) => name)).toEqual([
      '0035-ground',
      '0036-letters-of-properties',
      '0037-found-by-index',
      '0038-words-of-today',
    ]);
    store = await Store.open(file);
    expect(await store.select(`SELECT kind, says FROM journal WHERE kind LIKE 'publish%'`)).toEqual([
      { kind: 'publish.target', says: 'A place.' },
    ]);
    const [item] = await store.select<{ kind: string; result: string }>(
      'SELECT j.kind, i.result FROM job_items i JOIN jobs j ON j.id = i.jobId',
    );
    expect({ kind: item?.kind, result: JSON.parse(item?.result ?? '') as unknown }).toEqual({
      kind: 'publish',
      result: { says: '1 put', publication: { target: 't', says: 'sftp://files.example/', steps: [] } },
    });
    await expect(
      store.write((transaction) => store.run(`UPDATE journal SET says = 'other'`, {}, transaction)),
    ).rejects.toMatchObject({ parent: { message: expect.stringContaining('append-only') as string } });
  });

  it('are not touched where they are older than can be brought here, which is said', async () => {
    await store.write((transaction) => store.run('DELETE FROM migrations', {}, transaction));
    await store.write((transaction) =>
      store.run("INSERT INTO migrations (name) VALUES ('0001-ground'), ('0014-watch')", {}, transaction),
    );
    await store.close();
    await expect(Store.open(join(folder, 'records.sqlite'))).rejects.toThrow('too old for this Yard Badge');
    store = await Store.open(join(folder, 'others.sqlite'));
  });

  it('say what is the matter with their folder', async () => {
    await store.close();
    writeFileSync(join(folder, 'a file'), '');
    await expect(Store.open(join(folder, 'a file', 'records.sqlite'))).rejects.toThrow(
      'what is to be its folder is a file',
    );
    store = await Store.open(join(folder, 'records.sqlite'));
  });

  it('take what a statement names as values, lists as JSON, and nothing else', async () => {
    await add("o'neil");
    await add('b');
    const found = (sql: string, values: Record<string, unknown>) =>
      store.select<{ handle: string }>(`SELECT handle FROM clients WHERE ${sql} ORDER BY handle`, values);
    expect(await found('handle = $handle', { handle: "o'neil", other: 7 })).toEqual([{ handle: "o'neil" }]);
    expect(await found('handle = $handle', { handle: "' OR ''='" })).toEqual([]);
    const handles = ["o'neil", 'b', '$handle'];
    expect(await found('handle IN (SELECT value FROM json_each($handles))', { handles })).toHaveLength(2);
    await expect(async () => found('handle = $handle', {})).rejects.toThrow('nothing is given for $handle');
  });

  it('are written by one connection that is kept from one transaction to the next', async () => {
    const used = new Set<unknown>();
    await Promise.all(
      ['a', 'b', 'c', 'd'].map((handle) =>
        store.write(async (transaction) => {
          for (const one of open()) used.add(connections()[one]);
          await ClientRow.create(client(handle), { transaction });
        }),
      ),
    );
    expect(await ClientRow.count()).toBe(4);
    // The one that reads, and the one that writes.
    expect(used.size).toBe(2);
    expect(open()).toEqual(['default']);
  });

  it('are flushed by the log’s own marks, not at each commit', async () => {
    const pragma = async () => (await store.select<{ synchronous: number }>('PRAGMA synchronous'))[0];
    expect(await pragma()).toEqual({ synchronous: 1 });
    const written = await store.write((transaction) =>
      store.sequelize.query('PRAGMA synchronous', { transaction, type: QueryTypes.SELECT }),
    );
    expect(written).toEqual([{ synchronous: 1 }]);
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

  it('are asked once what their columns are, and know them in every connection', async () => {
    await add('a');
    await ClientRow.count();
    const asked: string[] = [];
    connections()['default']?.on('trace', (sql: string) => asked.push(sql));
    for (let times = 0; times < 3; times += 1) {
      const inside = await store.write((transaction) => ClientRow.findAll({ transaction }));
      for (const [row] of [await ClientRow.findAll(), inside]) expect(row?.audience).toEqual([]);
    }
    // The driver tells what it was asked a moment later.
    await expect.poll(() => asked.filter((sql) => sql.startsWith('SELECT')).length).toBe(3);
    expect(asked.filter((sql) => sql.startsWith('PRAGMA table_info')).length).toBeLessThanOrEqual(1);
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
