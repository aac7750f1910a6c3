import { afterAll, beforeAll, expect, it } from 'vitest';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';
let stage: Stage;
beforeAll(async () => { stage = await openStage(); await takeOnFerries(stage); });
afterAll(() => stage.close());
it('makes', async () => {
  await stage.order({ do: 'pages', host: 'www.saltmarsh-ferries.example', count: 5000, traps: process.env.TRAPS === '1' });
  const t = performance.now();
  const [r] = await stage.results(stage.marit.makeSitemap({ params: { property: 'ferries' }, body: { sources: ['site', 'sitemap'], minutes: 3 , ...(process.env.TRAPS?{pages:3000}:{})} }));
  console.log(r, performance.now() - t);
  const m = await stage.marit.showMaking({ params: { property: 'ferries' } });
  console.log(JSON.stringify({ ...m, recipe: 0 }, null, 1).slice(0, 9000));
  const t2 = performance.now();
  const v = await stage.marit.writeSitemap({ params: { property: 'ferries' }, body: {} });
  console.log(v, performance.now() - t2);
});
