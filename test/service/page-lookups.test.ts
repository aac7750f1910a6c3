import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const PAGE = 'https://www.saltmarsh-ferries.example/sitemaps/crossings/page-3';

describe('single pages', () => {
  let stage: Stage;
  const lookUp = (...addresses: string[]) =>
    stage.results(stage.marit.lookUp({ body: { addresses, engine: 'veldrane' } }));
  const visit = (...addresses: string[]) =>
    stage.results(stage.marit.askVisit({ body: { addresses, engine: 'veldrane' } }));

  beforeAll(async () => {
    stage = await openStage();
    await placeAll(stage, await takeOnFerries(stage));
  });
  afterAll(() => stage.close());

  it('are asked about only where a badge is held', async () => {
    await expect(lookUp(PAGE)).rejects.toThrow('No held badge covers');
    await expect(lookUp('https://elsewhere.example/')).rejects.toThrow('No enrolment covers');
    await expect(lookUp('/timetable')).rejects.toThrow('no whole address');
    await stage.results(stage.marit.claim({ body: { enrolments: ['ferries@veldrane'] } }));
    const [answer] = await lookUp(PAGE);
    expect(answer).toMatchObject({
      stops: true,
      enrolment: 'ferries@veldrane:address',
      page: { address: PAGE, listed: false, visitedAt: null, left: 1999, ration: 2000 },
    });
    expect(answer?.says).toBe(
      'Veldrane does not list it; it was never there. 1999 of 2000 lookups are left today.',
    );
  });

  it('are listed once the engine has read the sitemap', async () => {
    const { id } = await stage.marit.addSitemap({ body: { property: 'ferries', address: 'sitemap.xml' } });
    await stage.results(stage.marit.submitSitemap({ body: { sitemap: id } }));
    await stage.world.advance(3 * 86_400_000);
    const pages = Array.from({ length: 5 }, (_, at) => PAGE.replace('3', String(at + 1)));
    const answers = await lookUp(...pages);
    expect(answers.filter(({ page }) => page?.listed === true).length).toBeGreaterThan(0);
    expect(answers.every(({ page }) => page?.visitedAt !== null)).toBe(true);
  });

  it('are visited within the ration of the day, which is counted and shown', async () => {
    const pages = Array.from({ length: 11 }, (_, at) => PAGE.replace('3', String(at + 1)));
    const asked = [];
    for (const page of pages) asked.push(...(await visit(page)));
    expect(asked.filter(({ problem }) => !problem)).toHaveLength(10);
    expect(asked[9]?.says).toBe('Veldrane was asked to visit it. 0 of 10 visits are left today.');
    expect(asked[10]?.problem).toMatchObject({ code: 'ration-spent' });
    expect(asked[10]?.says).toContain('a sitemap is what is left');
    const { items } = await stage.marit.listRations();
    expect(items.find(({ engine }) => engine.id === 'veldrane')).toMatchObject({
      visits: { used: 10, ration: 10, left: 0 },
    });
    await stage.world.advance(86_400_000);
    expect((await visit(PAGE))[0]?.page?.left).toBe(9);
  });

  it('wait while the engine has them switched off, and say what to do meanwhile', async () => {
    await stage.order({ do: 'engine', engine: 'veldrane', suspend: { work: 'visits', ms: 20 * 86_400_000 } });
    const [waiting] = await visit(PAGE);
    expect(waiting?.problem?.code).toBe('engine-waits');
    expect(waiting?.says).toMatch(/A wait, not a failure: until .* Until then a sitemap is what is left\./);
    // What was not taken is not counted.
    const { items } = await stage.marit.listRations();
    expect(items.find(({ engine }) => engine.id === 'veldrane')?.visits.left).toBe(9);
  });

  it('of a long list are spread over the days, and go on by themselves', async () => {
    await stage.order({ do: 'engine', engine: 'veldrane' });
    await stage.world.advance(86_400_000);
    const addresses = Array.from({ length: 24 }, (_, at) => PAGE.replace('3', String(at + 1)));
    const started = await stage.marit.askVisit({ body: { addresses, engine: 'veldrane', spread: true } });
    const first = await stage.marit.finished(started);
    expect(first).toMatchObject({ total: 24, finished: 10, state: 'running' });
    const days = first.items.map(({ dueAt }) => dueAt?.slice(0, 10) ?? null);
    expect(days.filter((day) => day === null)).toHaveLength(10);
    expect(new Set(days.slice(10, 20)).size).toBe(1);
    expect(first.rests?.slice(0, 10)).toBe(days[10]);
    expect(Date.parse(days[20] ?? '') - Date.parse(days[10] ?? '')).toBe(86_400_000);
    const after = async (finished: number) => {
      await stage.world.advance(86_400_000);
      for (;;) {
        const job = await stage.marit.showJob({ params: { id: started.id } });
        if (job.finished >= finished) return job;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    };
    expect((await after(20)).rests?.slice(0, 10)).toBe(days[20]);
    // Somebody else spends the ration of the last day: what is left of the list waits for one more.
    const others = addresses.slice(0, 8).map((address) => `${address}?again`);
    await stage.world.advance(86_400_000);
    await visit(...others);
    const end = await after(24);
    expect(end).toMatchObject({ state: 'done', rests: null });
    expect(end.items.every(({ state, result }) => state === 'done' && result?.page)).toBe(true);
  });
});
