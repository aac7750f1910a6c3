import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { expect, test } from 'vitest';

/** What a program of its own, made of what was built, writes as JSON: memory of its own is what is looked at. */
async function said(program: string): Promise<Record<string, number>> {
  const flags = ['--expose-gc', '--input-type=module', '--eval', program];
  const cwd = new URL('../../', import.meta.url);
  const { stdout } = await promisify(execFile)(process.execPath, flags, { cwd });
  return JSON.parse(stdout) as Record<string, number>;
}

test('what starting up left in the young generation is given back', async () => {
  const { before, after, kept } = await said(`
    import v8 from 'node:v8';
    import { sweepStart } from './dist/service/start-swept.js';
    const young = () => v8.getHeapSpaceStatistics().find((one) => one.space_name === 'new_space').physical_space_size;
    let kept = [];
    for (let nth = 0; nth < 400_000; nth += 1) {
      kept.push({ nth, text: 'berth-' + nth });
      if (kept.length > 50_000) kept = kept.slice(-1_000);
    }
    const before = young();
    const swept = await sweepStart();
    console.log(JSON.stringify({ before, after: young(), kept: swept ? kept.length : 0 }));
  `);
  expect(kept).toBeGreaterThan(0);
  expect(after).toBeLessThan(Number(before) / 3);
});

test('the sample of a sitemap keeps its addresses, not the text that they were cut from', async () => {
  const { kept, megabytes } = await said(`
    import { Sampler } from './dist/core/sitemap/set/sampler.js';
    const sampler = new Sampler(50, 1);
    const used = () => { gc(); return process.memoryUsage().heapUsed; };
    const before = used();
    for (let nth = 0; nth < 2_000; nth += 1) {
      const text = ('<loc>https://quay.example/berths/' + nth + '</loc>').padEnd(100_000, '.' + nth);
      sampler.offer({ high: nth, low: nth * 7 }, text.slice(5, 50), 0, nth);
    }
    console.log(JSON.stringify({ kept: sampler.candidates().length, megabytes: (used() - before) / 1e6 }));
  `);
  expect(kept).toBe(150);
  expect(megabytes).toBeLessThan(2);
});
