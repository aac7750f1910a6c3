import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { machineClock } from '../../src/net/time/machine-clock.js';
import { Lease, RecordsHeld, RecordsLost } from '../../src/store/lease.js';
import { Store } from '../../src/store/store.js';
import { removed } from '../support/removed.js';
import { selected, statements } from '../support/statements.js';
import { until } from '../support/until.js';

/** Times that a process is stopped in the midst of its writing, and woken after another has taken over; by night a hundred. */
const STOPS = Number(process.env['STOPS'] ?? '8');
const DIST = fileURLToPath(new URL('../../dist', import.meta.url));

/** A process that writes one line of the journal after the other, for as long as it may. */
const WRITER = `
  import { Store } from '${DIST}/store/store.js';
  import { Lease } from '${DIST}/store/lease.js';
  const store = await Store.open(process.argv[1]);
  await Lease.take(store, { now: () => new Date() }, () => process.exit(7));
  for (let at = 0; ; at += 1)
    await store.write((transaction) => store.run("INSERT INTO journal (at, kind, says, details) VALUES ($at, 'test', 'x', '{}')",
      { at: new Date().toISOString() }, transaction)).then(() => new Promise((done) => setTimeout(done, 8)), () => process.exit(8));
`;

describe('who works on the records', () => {
  let folder: string;
  let file: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'yardbadge-lease-'));
    file = join(folder, 'records.sqlite');
  });
  afterEach(() => removed(folder));

  const takeOver = () =>
    statements(
      file,
      [
        `UPDATE lease SET holder = 'another', host = 'elsewhere', pid = 1, beatAt = ${String(machineClock.now().getTime())}`,
      ],
      50,
    );
  const touch = (store: Store) =>
    store.write((transaction) => store.run('DELETE FROM stale', {}, transaction));

  it('proves it with each transaction, and before anything is sent', async () => {
    const store = await Store.open(file);
    const onLost = vi.fn();
    await Lease.take(store, machineClock, onLost);
    await touch(store);
    await store.requireHeld();
    await takeOver();
    await expect(touch(store)).rejects.toBeInstanceOf(RecordsLost);
    await expect(store.requireHeld()).rejects.toBeInstanceOf(RecordsLost);
    expect(onLost).toHaveBeenCalledOnce();
    await store.close();
  });

  it('is told by its silence alone where it runs elsewhere, whatever its host and its number', async () => {
    const store = await Store.open(file);
    const first = await Lease.take(store, machineClock, () => undefined, 300);
    await first.release();
    const beats = (at: number) =>
      statements(file, [
        `INSERT OR REPLACE INTO lease (id, holder, host, pid, beatAt) VALUES (1, 'other', 'elsewhere', ${String(process.pid)}, ${String(at)})`,
      ]);
    await beats(machineClock.now().getTime());
    const beating = setInterval(() => void beats(machineClock.now().getTime()), 50);
    const second = Lease.take(store, machineClock, () => undefined, 300);
    await expect(second.finally(() => clearInterval(beating))).rejects.toBeInstanceOf(RecordsHeld);
    await (await Lease.take(store, machineClock, () => undefined, 300)).release();
    await store.close();
  });

  it(
    `writes nothing any more once it was stopped and another has taken over, ${String(STOPS)} times`,
    async () => {
      const lines = async () =>
        (await selected<{ count: number }>(file, 'SELECT COUNT(*) AS count FROM journal'))[0]?.count ?? 0;
      for (let nth = 0; nth < STOPS; nth += 1) {
        const writer: ChildProcess = spawn(process.execPath, ['--input-type=module', '-e', WRITER, file], {
          stdio: 'ignore',
        });
        const ended = new Promise((done) => writer.once('exit', done));
        const before = await lines().catch(() => 0);
        await until(
          () => lines().catch(() => 0),
          (now) => now > before + 3 + (nth % 5),
        );
        // One that sleeps within a transaction lets nobody take over: that one is not waited for.
        do {
          writer.kill('SIGCONT');
          await sleep(nth);
          writer.kill('SIGSTOP');
        } while (
          !(await takeOver().then(
            () => true,
            () => false,
          ))
        );
        const then = await lines();
        writer.kill('SIGCONT');
        expect([7, 8]).toContain(await ended);
        expect(await lines()).toBe(then);
        await statements(file, ['DELETE FROM lease']);
      }
    },
    60_000 + STOPS * 10_000,
  );
});
