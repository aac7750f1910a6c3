import type { Changes } from '../../src/api/documents.js';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { readEvents } from '../../src/client/client.js';
import { JobItemRow } from '../../src/store/models/jobs.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

/** How work that waits for the network is told: at once, by waiting, and by events. */
describe('jobs', () => {
  let stage: Stage;
  const headers = () => ({ authorization: `Bearer ${stage.key}`, 'content-type': 'application/json' });
  const post = (body: object, more: Record<string, string> = {}) =>
    fetch(`${stage.url}/api/v1/checks`, {
      method: 'POST',
      headers: { ...headers(), ...more },
      body: JSON.stringify(body),
    });

  beforeAll(async () => {
    stage = await openStage();
    await placeAll(stage, await takeOnFerries(stage));
  });
  afterAll(() => stage.close());

  it('are answered with 202 and where to ask', async () => {
    const response = await post({ all: true });
    const job = (await response.json()) as { id: string; total: number };
    expect([response.status, response.headers.get('location'), job.total]).toEqual([
      202,
      `/api/v1/jobs/${job.id}`,
      7,
    ]);
  });

  it('are waited for where the caller prefers it', async () => {
    const job = (await (await post({ all: true }, { prefer: 'respond-async, wait=10' })).json()) as {
      state: string;
      finished: number;
    };
    expect(job).toMatchObject({ state: 'done', finished: 7 });
  });

  it('tell their progress and their end as events', async () => {
    const { id } = (await (await post({ all: true })).json()) as { id: string };
    const names: string[] = [];
    for await (const { event: name = '', data } of readEvents(
      await fetch(`${stage.url}/api/v1/jobs/${id}/events`, { headers: headers() }),
    )) {
      names.push(name);
      expect(JSON.parse(data)).toMatchObject({ id, total: 7, items: [] });
      if (name === 'done') break;
    }
    expect(names.at(-1)).toBe('done');
  });

  it('have all their results where they are done, though they end while they are read', async () => {
    const { id } = await stage.marit.finished(await stage.marit.check({ body: { all: true } }));
    const findAll = JobItemRow.findAll.bind(JobItemRow);
    const spy = vi.spyOn(JobItemRow, 'findAll').mockImplementationOnce(async (...asked) => {
      const rows = await findAll(...asked);
      for (const row of rows) (row as JobItemRow).set({ state: 'running', result: null });
      return rows;
    });
    const job = await stage.marit.showJob({ params: { id } });
    spy.mockRestore();
    expect(job).toMatchObject({ state: 'done', total: 7, finished: 7, rests: null });
    expect(job.items.filter(({ state, result }) => state !== 'done' || result === null)).toEqual([]);
  });

  it('tell open pages that something changed', async () => {
    // What the work before has left to be derived is none of this.
    await stage.marit.verifyRecords();
    const events = readEvents(await fetch(`${stage.url}/api/v1/events`, { headers: headers() }));
    const first = events.next();
    await stage.marit.addClient({ body: { name: 'Another' } });
    const told = (await first).value as { event: string; data: string };
    expect(told.event).toBe('change');
    expect((JSON.parse(told.data) as Changes).kinds).toContain('client');
    const next = events.next();
    const { id } = await stage.marit.showProperty({ params: { property: 'ferries' } });
    await stage.marit.editProperty({ params: { property: 'ferries' }, body: { access: { zone: 'yes' } } });
    const changes = JSON.parse(((await next).value as { data: string }).data) as Changes;
    expect(changes.kinds).toContain('property');
    expect(changes.properties).toEqual([id]);
    await events.return(undefined);
  });

  it('are listed newest first, without their pieces', async () => {
    const { items } = await stage.marit.listJobs({ query: { limit: 3 } });
    expect(items.map(({ kind, total, items: pieces }) => [kind, total, pieces.length])).toEqual([
      ['check', 7, 0],
      ['check', 7, 0],
      ['check', 7, 0],
    ]);
  });

  it('with nothing to do are done at once', async () => {
    const job = await stage.marit.claim({ body: { enrolments: ['ferries'], ready: true } });
    expect(job.total).toBe(3);
    await stage.marit.finished(job);
    const again = await stage.marit.claim({ body: { ready: true } });
    expect(again).toMatchObject({ state: 'done', total: 0, items: [] });
  });

  it('keep what every check found, newest first, page by page', async () => {
    const page = (query: { limit: number; after?: string }) =>
      stage.marit.listChecks({ params: { enrolment: 'ferries@veldrane:address' }, query });
    const { items, next } = await page({ limit: 1 });
    expect(items).toHaveLength(1);
    const rest = await page({ limit: 500, after: next ?? '' });
    // Every method was looked at again and again, and with the same result, but for a look or two that a busy machine made slow.
    const all = [...items, ...rest.items];
    for (const method of ['dns', 'file', 'meta'] as const) {
      const own = all.filter((one) => one.method === method);
      expect(own.length).toBeGreaterThan(0);
      expect(own.reduce((sum, { times }) => sum + times, 0) - own.length).toBeGreaterThan(1);
      for (const { checkedAt, firstAt, times } of own) expect(checkedAt > firstAt).toBe(times > 1);
    }
    expect((items[0]?.checkedAt ?? '') >= (rest.items[0]?.checkedAt ?? '')).toBe(true);
  });
});
