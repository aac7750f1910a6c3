import { existsSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const ORIGIN = `https://${HOST}`;

describe('the contents of a sitemap', () => {
  let stage: Stage;
  let id: string;
  const look = async () => (await stage.results(stage.marit.readContents({ params: { sitemap: id } })))[0];
  type Query = NonNullable<Parameters<Stage['marit']['listContents']>[0]['query']>;
  const list = (query: Query = {}) => stage.marit.listContents({ params: { sitemap: id }, query });
  const outline = (folder?: string) =>
    stage.marit.outlineSitemap({
      params: { sitemap: id },
      ...(folder === undefined ? {} : { query: { folder } }),
    });

  beforeAll(async () => {
    stage = await openStage();
    await placeAll(stage, await takeOnFerries(stage));
    await stage.results(stage.marit.claim({ body: { enrolments: ['ferries@veldrane'] } }));
    ({ id } = await stage.marit.addSitemap({ body: { property: 'ferries', address: 'sitemap.xml' } }));
  });
  afterAll(() => stage.close());

  it('asks for somebody to look before', async () => {
    await expect(list()).rejects.toMatchObject({ problem: { code: 'contents-not-read' } });
    await expect(outline()).rejects.toMatchObject({ problem: { code: 'contents-not-read' } });
    // What an earlier process began and never finished is thrown away.
    writeFileSync(join(stage.folder, 'shelves/inside-leftover.sqlite'), 'half');
    expect(await look()).toMatchObject({ says: '162 addresses in 2 files can be looked at.', stops: false });
    expect(existsSync(join(stage.folder, 'shelves/inside-leftover.sqlite'))).toBe(false);
  });

  it('shows an index and its sitemaps as one, page by page, in any order, with nothing twice', async () => {
    for (const order of ['place', 'address', 'newest', 'oldest'] as const) {
      const seen: string[] = [];
      for (let after: string | null | undefined; after !== null;) {
        const page = await list({ order, limit: 50, ...(after === undefined ? {} : { after }) });
        expect(page).toMatchObject({
          count: 162,
          contents: { entries: 162, files: 2, kind: 'index', cut: false },
        });
        seen.push(...page.items.map(({ address }) => address));
        after = page.next;
      }
      expect(new Set(seen).size).toBe(162);
      if (order === 'address') expect(seen).toEqual([...seen].sort());
    }
    const [first] = (await list({ order: 'newest', limit: 1 })).items;
    const [last] = (await list({ order: 'oldest', limit: 1 })).items;
    expect(String(first?.lastmod) > String(last?.lastmod)).toBe(true);
    expect((await list({ limit: 1 })).items[0]).toMatchObject({
      nth: 1,
      file: `${ORIGIN}/sitemaps/crossings.xml`,
      line: expect.any(Number) as number,
      findings: [],
      asked: [],
    });
    await expect(list({ after: 'elsewhere_3' })).rejects.toMatchObject({ problem: { code: 'bad-cursor' } });
  });

  it('narrows to letters, folder, file, days and what was found', async () => {
    expect((await list({ match: 'PAGE-12' })).items.every(({ address }) => address.includes('page-12'))).toBe(
      true,
    );
    expect((await list({ match: '%' })).count).toBe(0);
    expect((await list({ match: '_age' })).count).toBe(0);
    expect((await list({ folder: `${ORIGIN}/sitemaps/harbours/` })).count).toBe(38);
    expect((await list({ folder: '/sitemaps/harbours/' })).count).toBe(38);
    await expect(list({ folder: '/nowhere/' })).rejects.toMatchObject({
      problem: { code: 'no-such-folder' },
    });
    expect((await list({ file: 2 })).count).toBe(38);
    const day = (await list({ limit: 1 })).items[0]?.lastmod ?? '';
    const days = { since: day, until: new Date(Date.parse(day) + 86_400_000).toISOString() };
    const some = await list(days);
    expect(some.count).toBeGreaterThan(0);
    expect(some.items.every(({ lastmod }) => lastmod === day)).toBe(true);
    expect((await list({ finding: 'any' })).count).toBe(0);
    await expect(list({ finding: "' OR 1" })).rejects.toMatchObject({ problem: { code: 'bad-input' } });
  });

  it('has a tree of folders, and sums', async () => {
    const top = await outline();
    expect(top.folders).toEqual([{ folder: `${ORIGIN}/`, own: 0, total: 162, hasBelow: true }]);
    expect(top).toMatchObject({ dated: 162, findings: [], more: false });
    const below = await outline(`${ORIGIN}/sitemaps/`);
    expect(below.folders.map(({ folder, total }) => [folder, total])).toEqual([
      [`${ORIGIN}/sitemaps/crossings/`, 124],
      [`${ORIGIN}/sitemaps/harbours/`, 38],
    ]);
  });

  it('tells what an engine said of single pages', async () => {
    const [page] = (await list({ limit: 1 })).items;
    await stage.results(
      stage.marit.lookUp({ body: { addresses: [page?.address ?? ''], engine: 'veldrane' } }),
    );
    expect((await list({ limit: 1 })).items[0]?.asked).toMatchObject([
      { engine: 'Veldrane', listed: expect.any(Boolean) as boolean },
    ]);
    expect((await list({ asked: 'any' })).count).toBe(1);
    const [listed, unlisted] = await Promise.all([list({ asked: 'listed' }), list({ asked: 'unlisted' })]);
    expect(listed.count + unlisted.count).toBe(1);
  });

  it('is had as a table', async () => {
    const table = async (asked: object) => new Response(await stage.marit.contentsTable(id, asked)).text();
    const lines = (await table({})).split('\r\n');
    expect(lines[0]).toBe('address,lastmod,file,line,findings,asked');
    expect(lines).toHaveLength(164);
    expect((await table({ match: 'page-12', order: 'address' })).split('\r\n').length).toBeLessThan(20);
    await expect(table({ folder: '/nowhere/' })).rejects.toMatchObject({
      problem: { code: 'no-such-folder' },
    });
  });

  it('is looked at anew, and the former look goes', async () => {
    const before = readdirSync(join(stage.folder, 'shelves'));
    await stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/crossings.xml', addresses: 130 });
    expect((await list()).count).toBe(162);
    await look();
    expect((await list()).count).toBe(168);
    const after = readdirSync(join(stage.folder, 'shelves'));
    expect(after).toHaveLength(1);
    expect(after).not.toEqual(before);
  });

  it('says why there is nothing to look at, and keeps what there was', async () => {
    await stage.order({ do: 'odd', host: HOST, answer: { path: '/sitemap.xml', status: 404 } });
    expect(await look()).toMatchObject({
      stops: true,
      says: expect.stringContaining('nothing to look at') as string,
    });
    expect((await list()).count).toBe(168);
  });
});
