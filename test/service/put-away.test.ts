import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';
import { selected, statements } from '../support/statements.js';
import { until } from '../support/until.js';

const HOST = 'www.saltmarsh-ferries.example';
const params = { property: 'ferries' };

/** What is put away, or deleted, is left alone from then on: also by what is under way. */
describe('a website whose pages are being gathered', () => {
  let stage: Stage;
  let asked = 0;
  const records = () => join(stage.folder, 'yardbadge.sqlite');
  const gather = async () => {
    const before = asked;
    const { id } = await stage.marit.makeSitemap({ params, body: {} });
    await until(
      () => Promise.resolve(asked),
      (now) => now > before + 40,
    );
    return id;
  };
  /** Requests in a second. */
  const requests = async () => {
    const before = asked;
    await sleep(1_000);
    return asked - before;
  };

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    await stage.order({ do: 'pages', host: HOST, count: 20_000 });
    stage.world.listeners.add(() => {
      asked += 1;
    });
  });
  afterAll(() => stage.close());

  it('is asked for no page any more once it is archived', async () => {
    const id = await gather();
    await stage.marit.archiveProperty({ params, query: { anyway: true } });
    expect(await requests()).toBe(0);
    const job = await stage.marit.showJob({ params: { id } });
    expect(job.state).toBe('done');
    expect(job.items[0]?.result?.says).toContain('is in the archive; nothing was done');
    await stage.marit.restoreProperty({ params });
  });

  it('is not restored while its records are being deleted', async () => {
    await stage.marit.archiveProperty({ params, query: { anyway: true } });
    const [row] = await selected<{ id: string; clientId: string }>(
      records(),
      'SELECT id, clientId FROM properties',
    );
    await statements(records(), [
      `INSERT INTO jobs (id, kind, state, createdAt, lane, total) VALUES ('gone', 'delete-client', 'stopped', '2033-05-18T09:00:00.000Z', 'long', 1)`,
      `INSERT INTO job_items (id, jobId, seq, subject, input, state, begun) VALUES ('gone-1', 'gone', 0, 'ferries',
         '{"clientId":"${row?.clientId ?? ''}","propertyId":"${row?.id ?? ''}"}', 'waiting', 0)`,
    ]);
    await expect(stage.marit.restoreProperty({ params })).rejects.toMatchObject({
      problem: { code: 'being-deleted', status: 409 },
    });
    await statements(records(), [
      `DELETE FROM job_items WHERE jobId = 'gone'`,
      `DELETE FROM jobs WHERE id = 'gone'`,
    ]);
    await stage.marit.restoreProperty({ params });
  });

  it('leaves nothing in the files once it is deleted, whatever was under way', async () => {
    await gather();
    await stage.results(stage.marit.deleteProperty({ params, body: { anyway: true } }));
    expect(await requests()).toBe(0);
    const [left] = await selected<{ count: number }>(records(), 'SELECT COUNT(*) AS count FROM made_pages');
    expect(left?.count).toBe(0);
    expect(readdirSync(join(stage.folder, 'shelves')).filter((name) => name.endsWith('.sqlite'))).toEqual([]);
    // What is kept for its time, such as jobs and the journal, names the address now and then; pages are named nowhere.
    const bytes = ['', '-wal'].map((end) => readFileSync(`${records()}${end}`).toString('latin1')).join('');
    expect(bytes).not.toMatch(/saltmarsh-ferries\.example\/\w+\/\w+-\d+\.html/u);
  });
});
