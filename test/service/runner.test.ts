import { EventEmitter } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import Joi from 'joi';
import { afterEach, beforeEach, describe, expect, it, test, vi } from 'vitest';
import type { Hop } from '../../src/core/badge/probe/evidence.js';
import { OneAtATime } from '../../src/desk/context/one-at-a-time.js';
import { isStopped, stoppable } from '../../src/cancellation/cancellation.js';
import { Politeness } from '../../src/net/http/politeness.js';
import { hop } from '../support/evidence.js';
import { JobRunner } from '../../src/desk/jobs/runner.js';
import { Queue, type Taken } from '../../src/desk/jobs/queue.js';
import { viewJob, viewProgress } from '../../src/desk/jobs/view.js';
import { anyWork, type AnyWork } from '../../src/desk/jobs/work.js';
import type { Desk } from '../../src/desk/context/desk.js';
import { JobItemRow } from '../../src/store/models/jobs.js';
import { PersonRow } from '../../src/store/models/people.js';
import { Store } from '../../src/store/store.js';
import { STAGE_TIME } from '../support/time.js';

const piece = (id: string, host: string | null = null, engine: string | null = null) => ({
  id,
  host,
  engine,
});
const named = (count: number, name: string, host: string | null = null) =>
  Array.from({ length: count }, (_, at) => piece(`${name}${String(at)}`, host));

describe('work that waits for its turn', () => {
  it('is stopped by the one who asked for it, not by the one before', async () => {
    const turns = new OneAtATime();
    const politeness = new Politeness();
    const [first, second] = [new AbortController(), new AbortController()];
    const afterAWhile = async (): Promise<boolean> => {
      await sleep(5);
      return isStopped();
    };
    const seen = async (): Promise<{ hop: Hop; stopped: boolean }> => ({
      hop: hop(),
      stopped: await afterAWhile(),
    });
    const all = Promise.all([
      stoppable(first.signal, () => turns.run('ferries', afterAWhile)),
      stoppable(second.signal, () => turns.run('ferries', afterAWhile)),
      stoppable(first.signal, () => politeness.within('quay.example', seen)),
      stoppable(first.signal, () => politeness.within('quay.example', seen)),
      stoppable(second.signal, () => politeness.within('quay.example', seen)),
    ]);
    second.abort();
    expect((await all).map((one) => (typeof one === 'boolean' ? one : one.stopped))).toEqual([
      false,
      true,
      false,
      false,
      true,
    ]);
  });
});

describe('whose turn it is', () => {
  const all = (turns: Queue) => {
    const taken: Taken[] = [];
    for (let next = turns.take(); next; next = turns.take()) taken.push(next);
    return taken;
  };
  const ids = (taken: readonly Taken[]) => taken.map((one) => one.piece.id);
  const given = (
    turns: Queue,
    id: string,
    personId: string,
    pieces: ReturnType<typeof named>,
    lane: 'person' | 'bulk' | 'long' = 'bulk',
  ) => {
    turns.add({ id, lane, personId });
    turns.refill(id, pieces);
  };

  it('no lane takes the places of another', () => {
    const turns = new Queue();
    given(turns, 'sweep', 'ann', named(40, 's'));
    given(turns, 'read', 'ann', named(40, 'r'), 'long');
    expect(all(turns)).toHaveLength(10);
    given(turns, 'check', 'ben', named(3, 'c'), 'person');
    expect(ids(all(turns))).toEqual(['c0', 'c1', 'c2']);
  });

  test.each([
    [false, 0, 8],
    [true, 0, 4],
    [false, 1, 4],
    [true, 1, 1],
  ])('bulk work gives way: processor full %s, waited for by %i people, %i at once', (full, waiting, most) => {
    const turns = new Queue(() => full);
    given(turns, 'one', 'ben', named(waiting, 'c'), 'person');
    expect(all(turns)).toHaveLength(waiting);
    given(turns, 'sweep', 'ann', named(40, 's'));
    expect(all(turns)).toHaveLength(most);
  });

  it('people take turns, however much one of them has', () => {
    const turns = new Queue();
    given(turns, 'a1', 'ann', named(40, 'a'));
    given(turns, 'a2', 'ann', named(40, 'x'));
    const first = all(turns);
    given(turns, 'b1', 'ben', named(40, 'b'));
    const next: string[] = [];
    for (const one of first) {
      turns.end(one);
      next.push(...ids(all(turns)));
    }
    expect(next.filter((id) => id.startsWith('b'))).toHaveLength(4);
    // And of one person's jobs each has its turn.
    expect(ids(first).filter((id) => id.startsWith('x'))).toHaveLength(4);
  });

  it('few go to one host or engine at once, and those behind are not held up', () => {
    const turns = new Queue();
    given(turns, 'sweep', 'ann', [...named(30, 'quay', 'quay.example'), piece('tide', 'tide.example')]);
    const taken = all(turns);
    expect(ids(taken)).toEqual(['quay0', 'quay1', 'tide']);
    const [first] = taken;
    if (first) turns.end(first);
    expect(ids(all(turns))).toEqual(['quay2']);
    const engines = new Queue();
    given(
      engines,
      'claims',
      'ann',
      Array.from({ length: 9 }, (_, at) => piece(`e${String(at)}`, null, 'veldrane')),
    );
    expect(all(engines)).toHaveLength(4);
  });

  it('one that is stopped has no turn, and none twice', () => {
    const turns = new Queue();
    given(turns, 'sweep', 'ann', named(3, 's'));
    expect(all(turns)).toHaveLength(3);
    turns.refill('sweep', named(3, 's'));
    expect(all(turns)).toEqual([]);
    turns.drop('sweep');
    turns.refill('sweep', named(5, 't'));
    expect(all(turns)).toEqual([]);
  });
});

describe('recorded work', () => {
  let folder: string;
  let store: Store;
  let runner: JobRunner;
  let done: string[];
  /** Whether pieces take as long as they say. */
  let slowly: boolean;
  const ann = { personId: 'ann' };
  const events = new EventEmitter().setMaxListeners(0);
  /** Work that takes a while for some, and never ends by itself for others. */
  const work: readonly AnyWork[] = [
    anyWork<{ name: string; ms?: number }>({
      kind: 'publish',
      input: Joi.object({ name: Joi.string().required(), ms: Joi.number() }),
      run: async (_, { input }) => {
        await sleep(slowly ? (input.ms ?? 1) : 1);
        await store.write(() => {
          done.push(input.name);
          return Promise.resolve();
        });
        return { says: `${input.name} was published.`, stops: false };
      },
    }),
  ];
  const open = () => {
    const desk = {
      store,
      events,
      clock: { now: () => STAGE_TIME },
      whenPutAway: new Set(),
    } as unknown as Desk;
    return new JobRunner(desk, work, (error) => {
      throw error;
    });
  };
  const pieces = (count: number, ms = 1) =>
    Array.from({ length: count }, (_, at) => ({ subject: String(at), input: { name: String(at), ms } }));

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'yardbadge-runner-'));
    store = await Store.open(join(folder, 'y.sqlite'));
    done = [];
    slowly = true;
    for (const id of ['ann', 'ben'])
      await PersonRow.create({
        id,
        name: id,
        role: 'lead',
        password: '',
        createdAt: STAGE_TIME.toISOString(),
      });
    runner = open();
  });
  afterEach(async () => {
    await runner.stop();
    await store.close();
    rmSync(folder, { recursive: true });
  });

  it('is counted on the job’s own row, and shown page by page', async () => {
    const id = await runner.start('publish', ann, pieces(60));
    const whole = await runner.settled(id, 20_000);
    expect(whole).toMatchObject({ state: 'done', total: 60, finished: 60, next: null });
    expect(whole.items).toHaveLength(60);
    const page = await viewJob(id, { limit: 25 });
    expect([page.items.length, page.next]).toEqual([25, '24']);
    expect((await viewJob(id, { after: '49', limit: 25 })).items.map(({ subject }) => subject)).toEqual(
      Array.from({ length: 10 }, (_, at) => String(50 + at)),
    );
    expect(new Set(done).size).toBe(60);
    expect(done).toHaveLength(60);
  });

  it('has its end written down, whatever kept it at first', async () => {
    await runner.stop();
    const told: string[] = [];
    const desk = {
      store,
      events,
      clock: { now: () => STAGE_TIME },
      whenPutAway: new Set(),
    } as unknown as Desk;
    runner = new JobRunner(desk, work, (_, where) => told.push(where));
    const write = store.write.bind(store);
    const id = await runner.start('publish', ann, pieces(1, 400));
    await sleep(150);
    // The next to write is the piece itself; then its end, which fails twice in different ways.
    const faults = [new TypeError('no such thing'), new Error('the disk is full')];
    const spy = vi.spyOn(store, 'write').mockImplementation((given) => {
      const fault = done.length > 0 ? faults.shift() : undefined;
      return fault ? Promise.reject(fault) : write(given as never);
    });
    expect(await runner.settled(id, 20_000)).toMatchObject({ state: 'done', finished: 1 });
    spy.mockRestore();
    expect(faults).toEqual([]);
    expect(told).toHaveLength(2);
    expect(done).toEqual(['0']);
  });

  it('of one person is not held up by another’s', async () => {
    const sweep = await runner.start('publish', ann, pieces(400, 60_000));
    const one = await runner.start('publish', { personId: 'ben' }, pieces(1));
    expect(await runner.settled(one, 60_000)).toMatchObject({ state: 'done' });
    expect((await viewProgress(sweep)).finished).toBe(0);
    await runner.halt(sweep);
  });

  it('stops while it is under way, does nothing more, and goes on where it was', async () => {
    const some = [...pieces(5), ...pieces(30, 60_000).slice(5)];
    const id = await runner.start('publish', ann, some);
    await expect.poll(() => done.length, { interval: 20 }).toBe(5);
    await runner.halt(id);
    await expect.poll(() => JobItemRow.count({ where: { state: 'running' } }), { interval: 20 }).toBe(0);
    expect(await viewProgress(id)).toMatchObject({ state: 'stopped', finished: 5, total: 30 });
    slowly = false;
    await runner.goOn(id);
    expect(await runner.settled(id, 60_000)).toMatchObject({ state: 'done', finished: 30 });
    expect([...done].sort()).toEqual(some.map(({ subject }) => subject).sort());
    await expect(runner.halt(id)).rejects.toThrow('over');
    await expect(runner.halt('nobody')).rejects.toThrow('no job');
  });

  it('writes nothing more once it was told to stop, though it goes on unheard', async () => {
    const id = await runner.start('publish', ann, pieces(4, 300));
    await expect.poll(() => JobItemRow.count({ where: { state: 'running' } }), { interval: 20 }).toBe(4);
    await runner.halt(id);
    await sleep(600);
    expect(done).toEqual([]);
  });

  it('that is stopped stays so over a restart', async () => {
    const id = await runner.start('publish', ann, pieces(40, 100));
    await expect.poll(() => done.length, { interval: 20 }).toBeGreaterThan(0);
    await runner.halt(id);
    await runner.stop();
    runner = open();
    expect(await runner.resume()).toBe(0);
    const at = done.length;
    await sleep(300);
    expect(done).toHaveLength(at);
    await runner.goOn(id);
    expect(await runner.settled(id, 30_000)).toMatchObject({ state: 'done', finished: 40 });
  });

  it('waits for no more than its patience when the service ends, and is done after the next start', async () => {
    const id = await runner.start('publish', ann, pieces(2, 600_000));
    await expect.poll(() => JobItemRow.count({ where: { state: 'running' } }), { interval: 20 }).toBe(2);
    await runner.stop();
    expect(await JobItemRow.count({ where: { jobId: id, state: 'waiting', begun: 0 } })).toBe(2);
    runner = open();
    expect(await runner.resume()).toBe(2);
    await runner.halt(id);
  });

  it('whose record is not what its kind is made of fails by itself', async () => {
    await runner.stop();
    const faults: unknown[] = [];
    runner = new JobRunner(
      { store, events, clock: { now: () => STAGE_TIME }, whenPutAway: new Set() } as unknown as Desk,
      work,
      (error) => {
        faults.push(error);
      },
    );
    const id = await runner.start('publish', ann, [{ subject: 'odd', input: { weight: 3 } }]);
    const job = await runner.settled(id, 10_000);
    expect(job.items[0]?.result?.problem?.code).toBe('internal');
    expect(String(faults[0])).toContain('no piece of publish');
  });
});
