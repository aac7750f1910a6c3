import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DAY } from '../../src/core/time/duration.js';
import { until } from '../support/until.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

let stage: Stage;

beforeAll(async () => {
  stage = await openStage();
  await placeAll(stage, await takeOnFerries(stage));
  await stage.results(stage.marit.claim({ body: { enrolments: ['ferries@house'], method: 'meta' } }));
});
afterAll(() => stage.close());

const ask = (key: string | null, method = 'GET') =>
  fetch(`${stage.url}/metrics`, { method, headers: key === null ? {} : { authorization: `Bearer ${key}` } });

/** The samples of an OpenMetrics text, by name and labels as they stand there. */
function samples(text: string): Map<string, number> {
  const lines = text.trimEnd().split('\n');
  expect(lines.at(-1)).toBe('# EOF');
  return new Map(
    lines
      .filter((line) => !line.startsWith('#'))
      .map((line): [string, number] => {
        const [, name = '', value = ''] = /^([a-z_]+(?:\{[^}]*\})?) (\S+)$/.exec(line) ?? [];
        expect(name).not.toBe('');
        return [name, Number(value)];
      }),
  );
}

describe('metrics', () => {
  it('are for who has a key', async () => {
    expect((await ask(null)).status).toBe(401);
    expect((await ask('nobody')).status).toBe(401);
    const { key } = await stage.person('odile', 'onlooker');
    expect((await ask(key)).status).toBe(200);
  });

  it('are OpenMetrics text, each value a number', async () => {
    const answer = await ask(stage.key);
    expect(answer.headers.get('content-type')).toBe(
      'application/openmetrics-text; version=1.0.0; charset=utf-8',
    );
    const all = samples(await answer.text());
    expect([...all.values()].every(Number.isFinite)).toBe(true);
    expect(all.get('yardbadge_process_faults_total')).toBe(0);
    expect(all.get('yardbadge_resident_memory_bytes')).toBeGreaterThan(10_000_000);
    expect([...all.keys()].filter((name) => name.startsWith('yardbadge_event_loop_delay'))).toHaveLength(3);
  });

  it('tell what is due, and how late', async () => {
    const due = 'yardbadge_watch_due{what="variants"}';
    const late = 'yardbadge_watch_late_seconds{what="variants"}';
    const before = samples(await (await ask(stage.key)).text());
    expect([before.get(due), before.get(late)]).toEqual([0, 0]);
    await stage.world.advance(3 * DAY);
    const after = await until(
      async () => samples(await (await ask(stage.key)).text()),
      (all) => all.get(due) === 1 && (all.get('yardbadge_watch_due{what="placement"}') ?? 0) > 0,
    );
    expect(after.get(late)).toBeGreaterThan(DAY / 1000);
    expect(after.get(late)).toBeLessThan((3 * DAY) / 1000);
    expect(after.get('yardbadge_job_pieces{lane="bulk"}')).toBe(0);
    expect(after.get('yardbadge_messages{way="mail",state="waiting"}')).toBe(0);
  });
});
