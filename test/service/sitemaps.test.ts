import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FoundSitemap } from '../../src/api/documents.js';
import { openStage, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const ORIGIN = `https://${HOST}`;

describe('finding and reading sitemaps', () => {
  let stage: Stage;
  const find = async (note = false): Promise<{ says: string; stops: boolean; found: FoundSitemap[] }> => {
    const [result] = await stage.results(
      stage.marit.findSitemaps({ params: { property: 'ferries' }, body: note ? { note } : {} }),
    );
    return { says: result?.says ?? '', stops: result?.stops ?? false, found: result?.found ?? [] };
  };
  const read = async () => {
    await stage.results(stage.marit.readSitemaps({ body: { property: 'ferries' } }));
    return (await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items;
  };
  const file = (path: string, content: string) => stage.order({ do: 'file', host: HOST, path, content });

  beforeAll(async () => {
    stage = await openStage();
    await stage.marit.addClient({ body: { name: 'Saltmarsh', handle: 'saltmarsh' } });
    const { job } = await stage.marit.addProperty({
      body: { client: 'saltmarsh', address: HOST, handle: 'ferries' },
    });
    await stage.marit.finished({ id: job });
  });
  afterAll(() => stage.close());

  it('finds what robots.txt names, the usual names and the feeds, and proposes the index', async () => {
    await stage.order({
      do: 'meta',
      host: HOST,
      tag: '<link rel="alternate" type="application/rss+xml" href="/news.rss">',
    });
    await file(
      '/news.rss',
      `<rss version="2.0"><channel><item><link>${ORIGIN}/news/1</link></item></channel></rss>`,
    );
    await file('/sitemap.txt', `${ORIGIN}/a\n${ORIGIN}/b\n`);
    const { found, says, stops } = await find();
    expect(found.map(({ url, why, kind, submit }) => [url.replace(ORIGIN, ''), why, kind, submit])).toEqual([
      ['/sitemap.xml', 'robots', 'index', true],
      ['/news.rss', 'feed', 'rss', false],
      ['/sitemap.txt', 'usual', 'text', false],
    ]);
    expect(stops).toBe(false);
    expect(says).toBe(`Found 3; submit ${ORIGIN}/sitemap.xml.`);
    expect((await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items).toEqual([]);
  });

  it('notes the one to submit where that is wanted, once', async () => {
    await find(true);
    const { found } = await find(true);
    expect(found.filter(({ noted }) => noted).map(({ url }) => url)).toEqual([`${ORIGIN}/sitemap.xml`]);
    const items = await read();
    expect(items).toHaveLength(1);
    expect(items[0]).toMatchObject({
      state: 'clean',
      reading: { kind: 'index', addresses: 162, children: 2 },
    });
  });

  it('tells when the count falls by a third, beside what it was', async () => {
    await stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/crossings.xml', addresses: 40 });
    const [sitemap] = await read();
    expect(sitemap?.state).toBe('flawed');
    expect(sitemap?.reading?.findings.find(({ code }) => code === 'sitemap.fell')?.evidence).toMatchObject({
      before: 162,
      after: 78,
    });
    // It is not over because it was read once more, but when somebody says that it is right.
    const again = (await read())[0];
    expect(again?.reading?.findings.find(({ code }) => code === 'sitemap.fell')?.evidence).toMatchObject({
      before: 162,
      after: 78,
    });
    await stage.results(stage.marit.acceptFall({ params: { sitemap: sitemap?.id ?? '' } }));
    expect((await read())[0]?.state).toBe('clean');
  });

  it('tells when robots.txt forbids it, or does not name it', async () => {
    await file('/robots.txt', 'User-agent: *\nDisallow: /sitemap');
    const [sitemap] = await read();
    const codes = sitemap?.reading?.findings.map(({ code }) => code);
    expect(codes).toEqual(expect.arrayContaining(['sitemap.robots-forbids', 'sitemap.not-named']));
    const { says } = await find();
    expect(says).toContain(`submit ${ORIGIN}/sitemap.xml`);
  });

  it('says where it looked when there is none', async () => {
    const { job } = await stage.marit.addProperty({
      body: { client: 'saltmarsh', address: 'ballast-bikes.example', handle: 'bikes' },
    });
    await stage.marit.finished({ id: job });
    const [result] = await stage.results(
      stage.marit.findSitemaps({ params: { property: 'bikes' }, body: {} }),
    );
    expect(result).toMatchObject({ stops: true, found: [{ why: 'robots', kind: null }] });
  });
});
