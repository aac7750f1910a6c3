import { describe, expect, it } from 'vitest';
import { Killable } from '../support/killable.js';

describe('a gathering whose process is killed', () => {
  it('goes on where it was, and reads hardly anything twice', async () => {
    const killed = await Killable.open();
    try {
      await killed.startWithClocks();
      const { sites } = killed.world.file.state;
      const site = sites.find(({ host }) => host === 'tidewell-clocks.example');
      if (site) site.pages = { count: 300, traps: false };
      const asked: string[] = [];
      killed.world.listeners.add((url) => asked.push(url));
      const own = { property: 'clocks' };
      const job = await killed.client.makeSitemap({ params: own, body: {} });
      const read = async () => (await killed.client.showMaking({ params: own })).gathering?.read ?? 0;
      await expect.poll(read, { interval: 50 }).toBeGreaterThan(40);
      await killed.kill();
      await killed.start();
      await killed.client.finished(job);
      const { gathering, preview } = await killed.client.showMaking({ params: own });
      expect(gathering).toMatchObject({ state: 'ended', ended: 'all' });
      expect(preview?.chosen).toBeGreaterThan(300);
      const pages = asked.filter((url) => url.endsWith('.html'));
      expect(new Set(pages).size).toBeGreaterThan(290);
      expect(pages.length - new Set(pages).size).toBeLessThan(200);
    } finally {
      await killed.close();
    }
  });
});
